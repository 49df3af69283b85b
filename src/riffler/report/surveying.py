"""What a survey found -> what people read of it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

from rich.text import Text

from riffler.errors import enumerated
from riffler.files import as_typed
from riffler.plain import clean
from riffler.plan.advice import Advice
from riffler.plan.finding import Finding
from riffler.plan.survey import Survey
from riffler.report.screen import Screen
from riffler.report.wording import plural

#: So many kinds of findings are listed in one line; more are only counted.
MOST = 6

#: So many findings are shown unless all are wanted; of a kind so many when there are more.
SHOWN, EACH = 40, 5


def show_survey(
    screen: Screen, survey: Survey, *, with_accepted: bool = False, show_all: bool = False
) -> None:
    """The findings with their numbers, grouped by cutlist, and one line that sums them up.

    Of many alike only a few are shown, unless `show_all` one is wanted.
    """
    path = None
    shown = dict(enumerate(survey.findings, start=1)) if show_all else _few(survey.findings)
    for number, finding in shown.items():
        if finding.said_at.path != path:
            if path is not None:
                screen.say("")
            path = finding.said_at.path
            screen.line(Text(as_typed(path), style="bold"))
        screen.line(_headline(number, finding))
        screen.line(Text(f"{'':5}{clean(finding.message)}"))
        screen.line(Text(f"{'':5}{clean(finding.advice)}", style="dim"))
    if survey.findings:
        screen.say("")
    _say_more(screen, survey, shown)
    if with_accepted:
        for accepted in survey.accepted:
            name = accepted.finding.slice or "the cutlist"
            screen.say(f"Accepted in {name}: {accepted.finding.kind}, “{accepted.reason}”")
    for idle in survey.idle:
        where = idle.slice or "The cutlist"
        screen.say(f"{where} accepts {idle.kind}, which is not found: it can go.")
    _say_corners(screen, survey.advice)
    screen.say(_summary(survey))


def _say_corners(screen: Screen, advice: Sequence[Advice]) -> None:
    """What only rounded corners keep from being JPEGs, said once."""
    if not advice:
        return
    names = [one_advice.slice for one_advice in advice]
    if len(advice) == 1:
        who, css = f"its rounded corners keep {names[0]} from being a JPEG", advice[0].css
    else:
        who, css = f"rounded corners keep {enumerated(names)} from being JPEGs", "border-radius"
    screen.say(
        f"Only {who}: {css} would draw them. What that saves: riffler weigh {' '.join(names)}"
    )


def _say_more(screen: Screen, survey: Survey, shown: Mapping[int, Finding]) -> None:
    """How many findings of each kind are not shown."""
    every, seen = (
        Counter(finding.kind for finding in some) for some in (survey.findings, shown.values())
    )
    if more := every - seen:
        listed = ", ".join(f"{count} {kind}" for kind, count in more.most_common())
        screen.say(f"More of the same: {listed}. All of them: riffler survey --all")


def _few(findings: Sequence[Finding]) -> dict[int, Finding]:
    """Some of each kind, by number: as many as anybody reads."""
    kinds: Counter[str] = Counter()
    few: dict[int, Finding] = {}
    each = EACH if len(findings) > SHOWN else SHOWN
    for number, finding in enumerate(findings, start=1):
        kinds[finding.kind] += 1
        if kinds[finding.kind] <= each and len(few) < SHOWN:
            few[number] = finding
    return few


def _headline(number: int, finding: Finding) -> Text:
    line = Text(f"{number:>3}  ")
    line.append(finding.kind, style="bold yellow")
    line.append(f"  {finding.slice}" if finding.slice else "", style="bold")
    where = [f"line {finding.said_at.line}"] if finding.said_at.line else []
    if finding.place is not None:
        where.append(f"at {finding.place.x}, {finding.place.y}")
    return line.append(f"  {', '.join(where)}" if where else "", style="dim")


def _summary(survey: Survey) -> str:
    if not survey.subjects:
        return "There is no cutlist to survey. Begin with one: riffler draft MOCKUP"
    slices = plural(sum(len(subject.slices) for subject in survey.subjects), "slice")
    lists = plural(len(survey.subjects), "cutlist")
    accepted = f", {len(survey.accepted)} accepted" if survey.accepted else ""
    if not survey.findings:
        return f"Surveyed {slices} in {lists}: nothing found{accepted}. Next: riffler cut"
    kinds = Counter(finding.kind for finding in survey.findings).most_common()
    listed = ", ".join(f"{count} {kind}" for kind, count in kinds)
    if len(kinds) > MOST:
        listed = f"{len(kinds)} kinds"
    many = plural(len(survey.findings), "finding")
    return f"Surveyed {slices} in {lists}: {many} ({listed}){accepted}."
