"""The guide told: in a reader's marks, and as a file of docs/."""

import re
from typing import Final

from ninja import Schema

from zephyrant.loans import MARKS, Marks
from zephyrant.texts import worded

from .jobs import JOBS, Job

_NUMBER: Final = re.compile(r"\{([\d.]+)\}")


class JobTold(Schema):
    """What somebody comes for, what to do, and an example; `line`: the example as one says it,
    empty where it is no loan."""

    name: str
    title: str
    when: str
    steps: list[str]
    line: str
    answer: str


def filled(text: str, marks: Marks) -> str:
    """A text of the guide with its numbers in a reader's marks."""
    return _NUMBER.sub(lambda number: marks.write(number[1]), text)


def _told(name: str, job: Job, marks: Marks) -> JobTold:
    return JobTold(
        name=name,
        title=worded(job.title),
        when=filled(worded(job.when), marks),
        steps=[filled(worded(step), marks) for step in job.steps],
        line=filled(job.line, marks),
        answer=filled(worded(job.answer), marks),
    )


def jobs_told(marks: Marks) -> list[JobTold]:
    """Every job, in a reader's marks."""
    return [_told(name, job, marks) for name, job in JOBS.items()]


def written() -> str:
    """The guide as a file."""
    lines = [
        "# What analysts come for",
        "",
        "Each job as the application tells it under Guide, where one click opens its example. "
        "Written by `make schemas` from `zephyrant/desk/guide/jobs.py`.",
    ]
    for job in jobs_told(MARKS["comma-point"]):
        lines += ["", f"## {job.title}", "", job.when, ""]
        lines += [f"{number}. {step}" for number, step in enumerate(job.steps, 1)]
        if job.line:
            lines += ["", f"    {job.line}"]
        if job.answer:
            lines += ["", f"{job.answer}."]
    return "\n".join(lines) + "\n"
