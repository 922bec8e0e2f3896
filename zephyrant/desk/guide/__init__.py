"""The guide: what analysts come for, job by job, each with an example that opens."""

from .jobs import JOBS
from .opening import open_example
from .telling import JobTold, jobs_told, written

__all__ = ["JOBS", "JobTold", "jobs_told", "open_example", "written"]
