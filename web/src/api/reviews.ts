import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerWith } from "./answer-with";
import { caseKey } from "./cases";
import { ask, client, Refused } from "./client";
import type { CaseOpened, Content } from "./types";
import { t } from "../texts";

const path = (id: string) => ({ params: { path: { case_id: id } } });
const reviewsKey = (id: string) => ["reviews", id];

/** The reviews and the comments of a case, and the figures that can be commented on; `version`: the
 *  case as it is kept. */
export function useReviews(
  id: string,
  marks: string,
  version: number,
  wanted: boolean,
  before: () => Promise<unknown>,
) {
  return useQuery({
    queryKey: [...reviewsKey(id), marks, version],
    queryFn: async ({ signal }) => {
      await before();
      return ask(client.GET("/api/v1/cases/{case_id}/reviews", { ...path(id), signal }));
    },
    enabled: wanted,
    staleTime: 0,
  });
}

/** What comes of judging a case stands on its page. */
function useJudged(id: string) {
  const queries = useQueryClient();
  return (opened: CaseOpened) => {
    void queries.invalidateQueries({ queryKey: reviewsKey(id) });
    return answerWith(queries, caseKey(id), opened);
  };
}

/** Puts a case before a colleague; what stands in it is kept first. */
export function usePutUp(id: string, versionNow: () => Promise<number | null>) {
  const onSuccess = useJudged(id);
  return useMutation({
    mutationFn: async (put: { reviewer: string; asked: string }) => {
      const version = await versionNow();
      if (version === null) throw new Error(t("What stands here has to be saved first."));
      const body = { ...put, version };
      return ask(client.POST("/api/v1/cases/{case_id}/reviews", { ...path(id), body }));
    },
    onSuccess,
  });
}

export type Ending = "approve" | "send-back" | "take-back";

/** Ends a review: approved, sent back, taken back. */
export function useEndReview(id: string) {
  const onSuccess = useJudged(id);
  return useMutation({
    mutationFn: ({ how, number, said }: { how: Ending; number: number; said: string }) => {
      const params = { path: { case_id: id, number } };
      if (how === "take-back")
        return ask(client.POST("/api/v1/cases/{case_id}/reviews/{number}/take-back", { params }));
      const body = { said };
      return how === "approve"
        ? ask(client.POST("/api/v1/cases/{case_id}/reviews/{number}/approve", { params, body }))
        : ask(client.POST("/api/v1/cases/{case_id}/reviews/{number}/send-back", { params, body }));
    },
    onSuccess,
  });
}

export function useComment(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { figure: string; text: string }) =>
      ask(client.POST("/api/v1/cases/{case_id}/comments", { ...path(id), body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: reviewsKey(id) }),
  });
}

/** A new version beside an approved case, of what stands on the page. */
export function startVersion(id: string, content: Content): Promise<CaseOpened> {
  const body = { content };
  return ask(client.POST("/api/v1/cases/{case_id}/new-version", { ...path(id), body }));
}

/** What is wrong at a field; at none: what is said of the whole, or what kept the server from
 *  answering. */
export function faultAt(error: Error | null, field: string): { message: string } | null {
  if (!error) return null;
  if (!(error instanceof Refused)) return field ? null : error;
  return error.errors.find((each) => each.field === field) ?? null;
}
