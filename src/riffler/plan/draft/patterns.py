"""Layers that are text -> few addresses that mean just them."""

from __future__ import annotations

from collections.abc import Callable, Container, Sequence

from riffler.reading.reading import Reading


def word_patterns(reading: Reading, known: Container[str] = ()) -> tuple[str, ...]:
    """The pixel layers that are text, in few addresses: whole groups, and one name in a row.

    But for those whose words are `known`: to say what a layer says is to say that it is text.
    """
    mockup = reading.mockup
    if mockup.is_vector:
        return ()
    texts = [
        layer.address
        for layer in reading.drawings()
        if reading.is_words(layer) and layer.address not in known
    ]
    return _patterns(texts, list(mockup.by_address), lambda a: not mockup.by_address[a].is_group)


def _patterns(
    wanted: Sequence[str], known: Sequence[str], is_leaf: Callable[[str], bool]
) -> tuple[str, ...]:
    """Addresses and one-star patterns that mean exactly `wanted`, the widest first."""
    left, texts = list(wanted), []
    options: dict[str, list[str]] = {}
    for address in wanted:
        parts = address.split("/")
        for index in range(len(parts)):
            if len(parts) > 1 and "\\" not in address:
                pattern = "/".join((*parts[:index], "*", *parts[index + 1 :]))
                options.setdefault(pattern, []).append(address)
    for pattern, covered in sorted(options.items(), key=lambda item: (-len(item[1]), item[0])):
        meant = [a for a in known if is_leaf(a) and _means(pattern, a)]
        rest = [address for address in covered if address in left]
        if len(rest) >= 2 and set(meant) <= set(wanted):
            texts.append(pattern)
            left = [address for address in left if address not in covered]
    return (*texts, *left)


def _means(pattern: str, address: str) -> bool:
    parts, own = pattern.split("/"), address.split("/")
    return len(parts) == len(own) and all(p in ("*", o) for p, o in zip(parts, own, strict=True))
