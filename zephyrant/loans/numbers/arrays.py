"""Arrays of numbers: NumPy, and FLINT beside it, loaded when something is first reckoned by them.

A loan whose answer is worked in whole numbers and decimals does not wait for them.
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

__all__ = ["Flags", "Floats", "Texts", "Wholes", "flint", "np"]


class _Later:
    """A module that is loaded when something of it is asked for."""

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, name: str) -> Any:  # noqa: ANN401  (whatever the module holds)
        found = getattr(import_module(self._name), name)
        setattr(self, name, found)
        return found


if TYPE_CHECKING:
    import flint
    import numpy as np
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Wholes = NDArray[np.int64]
    Flags = NDArray[np.bool_]
    Texts = NDArray[np.object_]
else:
    np, flint = _Later("numpy"), _Later("flint")
    # Names for readers and for the checker of types alone.
    Floats = Wholes = Flags = Texts = tuple
