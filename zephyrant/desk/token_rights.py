"""What a token has to be allowed for each operation of the API, by the operation's own name."""

from collections.abc import Mapping
from typing import Final, Literal, get_args

May = Literal["read", "compute", "write"]
MAY: Final[tuple[May, ...]] = get_args(May)

#: For people alone: what belongs to whoever holds the password, and deciding on cases.
_FOR_PEOPLE: Final = (
    *("getDoor", "signIn", "enterDemo", "signOut", "changePassword"),
    *("listTokens", "startToken", "deleteToken"),
    *("startReview", "approveReview", "sendReviewBack", "stopReview"),
)
#: What is kept, as it is kept, and its files.
_READ: Final = (
    *("getWords", "getGlossary", "getGuide", "getMe", "getFileChoices", "getFileProgress"),
    *("listCases", "listCaseBin", "getCase", "takeCases", "takeCaseDocument"),
    *("takeCaseSchedule", "takeCaseStatement", "getSideBySide", "takeSideBySide"),
    *("getSeveralSideBySide", "takeSeveralSideBySide"),
    *("listRevisions", "getRevision", "getReviews", "listTrail", "getTrailPoint"),
    *("listColleagues", "listShares", "listIndices", "listPresets"),
    *("listQuoteLists", "listBinnedQuoteLists", "getQuoteList", "takeQuoteListFile"),
    *("listTables", "getTable", "getTableProgress", "listTableRows", "takeTableFile"),
    *("getTableTemplates", "listTableTemplates", "takeTableTemplateFile"),
)
#: What is computed of what was sent, and kept nowhere.
_COMPUTE: Final = (
    *("solve", "work", "solveSchedule", "solveStatement"),
    *("askBalanceAt", "askPeriodTotals", "askReconciliation", "askLine", "askClauses"),
    *("askPayoff", "askRefinancing", "askRateCurve", "askWaysOut", "askSensitivity"),
    *("askVariant", "askPayingMore", "askPoints", "askDifferences", "askEquivalentRates"),
    *("askRequoting", "askRepacing", "askComparison"),
)
#: What is computed of what is kept.
_READ_AND_COMPUTE: Final = ("askTableReading", "askTableFlows", "takeTableFlowsFile")
#: What keeps, changes or deletes, and tells no more than was sent.
_WRITE: Final = (
    *("startCase", "startCaseFromDocument", "startCasesFromDocuments", "startCaseFromFlows"),
    *("deleteCase", "deleteSeveralCases", "undeleteSeveralCases", "changeTagsOfCases"),
    *("startExample", "saveAsides", "savePresets", "saveIndex", "deleteIndex"),
    *("startQuoteList", "startQuoteListFromFile", "deleteQuoteList"),
    *("startTable", "startTableFromText", "deleteTable", "stopTable"),
    *("deleteTableTemplate", "saveMarks", "saveColumns", "saveBegins", "saveFiles"),
)
#: What changes something and tells what is kept of it: what others wrote, too.
_READ_AND_WRITE: Final = (
    *("saveCase", "undeleteCase", "copyCase", "restoreRevision", "nameTrailPoint", "saveShares"),
    *("saveQuoteList", "undeleteQuoteList"),
    *("startComment", "startNewVersion"),
    *("saveTableMatching", "startCaseFromRow", "startTableTemplate", "saveTableTemplate"),
)
_TABLE: Final[tuple[tuple[tuple[str, ...], tuple[May, ...]], ...]] = (
    (_FOR_PEOPLE, ()),
    (_READ, ("read",)),
    (_COMPUTE, ("compute",)),
    (_READ_AND_COMPUTE, ("read", "compute")),
    (_WRITE, ("write",)),
    (_READ_AND_WRITE, ("read", "write")),
)
#: Everything a token has to be allowed for an operation; nothing: no token will do.
NEEDED: Final[Mapping[str, tuple[May, ...]]] = {
    operation: needed for operations, needed in _TABLE for operation in operations
}
