"""A mixed-integer program in the terms of a solver: columns, rows, one goal after the other. HiGHS solves it."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from math import inf
from time import monotonic
from typing import Any

Terms = Mapping[int, float]
#: Two values of a goal nearer than this are one.
_SAME = 1e-3


@dataclass(slots=True)
class Solved:
    """What came of one goal: the values by column, whether nothing better is possible, the best still possible.

    ``said`` is what the solver says that the goal comes to.
    """

    values: list[float]
    proven: bool
    bound: float
    said: float


@dataclass(slots=True)
class Program:
    """Columns with their bounds, and rows of terms between two ends."""

    lower: list[float] = field(default_factory=list)
    upper: list[float] = field(default_factory=list)
    whole: list[bool] = field(default_factory=list)
    rows: list[tuple[float, float, Terms]] = field(default_factory=list)

    def column(self, upper: float, *, whole: bool = False, lower: float = 0.0) -> int:
        """One more unknown; its place."""
        self.lower.append(lower)
        self.upper.append(upper)
        self.whole.append(whole)
        return len(self.lower) - 1

    def at_most(self, terms: Terms, most: float) -> None:
        """The sum of the terms is at most so much."""
        if terms or most < 0:
            self.rows.append((-inf, most, terms))

    def at_least(self, terms: Terms, least: float) -> None:
        """The sum of the terms is at least so much."""
        self.rows.append((least, inf, terms))

    def exactly(self, terms: Terms, value: float) -> None:
        """The sum of the terms is just so much."""
        self.rows.append((value, value, terms))


class Solver:
    """HiGHS with a program in it."""

    def __init__(self, program: Program) -> None:
        import highspy
        import numpy as np

        self.program, self.highspy = program, highspy
        # highspy.Highs greets on standard output as it is made, before it can be told not to; its base does not
        made: Any = highspy.Highs.__bases__[0]
        self.highs: Any = made()
        for name, value in (("output_flag", False), ("threads", 2), ("mip_feasibility_tolerance", 1e-7)):
            self.highs.setOptionValue(name, value)
        lp = highspy.HighsLp()
        lp.num_col_, lp.num_row_ = len(program.lower), len(program.rows)
        lp.col_cost_ = np.zeros(lp.num_col_)
        lp.col_lower_, lp.col_upper_ = np.array(program.lower), np.array(program.upper)
        kinds = highspy.HighsVarType
        lp.integrality_ = [kinds.kInteger if whole else kinds.kContinuous for whole in program.whole]
        lp.row_lower_ = np.array([low for low, _, _ in program.rows])
        lp.row_upper_ = np.array([high for _, high, _ in program.rows])
        starts, index, values = [0], [], []
        for _, _, terms in program.rows:
            index += list(terms.keys())
            values += list(terms.values())
            starts.append(len(index))
        lp.a_matrix_.format_ = highspy.MatrixFormat.kRowwise
        lp.a_matrix_.start_, lp.a_matrix_.index_ = np.array(starts), np.array(index)
        lp.a_matrix_.value_ = np.array(values, dtype=float)
        self.highs.passModel(lp)

    def least(self, goal: Terms, seconds: float, hint: list[float] | None = None) -> Solved | None:
        """The least of a goal within a time, from a ``hint`` that holds; None where not even a first answer came.

        HiGHS 1.16 may find something better than the hint, say so, and hand the hint back: then it is asked once more
        without one.
        """
        began = monotonic()
        found = self._least(goal, seconds, hint)
        if hint is None or (found is not None and abs(self._worth(goal, found.values) - found.said) <= _SAME):
            return found
        self.highs.clearSolver()
        again = self._least(goal, seconds - (monotonic() - began), None)
        known = self._worth(goal, hint)
        if again is not None and self._worth(goal, again.values) <= known + _SAME:
            return again
        return Solved(hint, False, again.bound if again is not None else 0.0, known)

    def _least(self, goal: Terms, seconds: float, hint: list[float] | None) -> Solved | None:
        import numpy as np

        count = len(self.program.lower)
        costs = np.zeros(count)
        for column, value in goal.items():
            costs[column] = value
        self.highs.changeColsCost(count, np.arange(count, dtype=np.int32), costs)
        self.highs.setOptionValue("time_limit", max(0.05, seconds) + self.highs.getRunTime())
        if hint is not None:
            there = self.highspy.HighsSolution()
            whole = self.program.whole
            there.col_value = [round(value) if whole[at] else value for at, value in enumerate(hint)]
            self.highs.setSolution(there)
        self.highs.run()
        info: Any = self.highs.getInfo()
        if info.primal_solution_status != 2:  # no feasible solution
            return None
        values = list(self.highs.getSolution().col_value)
        optimal = self.highs.getModelStatus() == self.highspy.HighsModelStatus.kOptimal
        found = self._worth(goal, values)
        bound = found if optimal else float(info.mip_dual_bound)
        return Solved(values, optimal, bound, float(info.objective_function_value))

    @staticmethod
    def _worth(goal: Terms, values: list[float]) -> float:
        """What a goal comes to."""
        return float(sum(value * values[column] for column, value in goal.items()))

    def keep(self, goal: Terms, most: float) -> None:
        """From now on a goal stays at most at what was reached."""
        import numpy as np

        columns = np.array(list(goal.keys()), dtype=np.int32)
        self.highs.addRow(-inf, most, len(columns), columns, np.array(list(goal.values()), dtype=float))
