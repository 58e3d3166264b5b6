"""Other cable for a failing circuit: a leg laid or sized otherwise, a thicker feed, a shorter run."""

from collections.abc import Iterator

from lumbek.core.checks.overload import needed_iz_a
from lumbek.core.choosing.attempt import LAID, LEG, RUN, SHORTER, Try
from lumbek.core.choosing.reach import reach
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import floor_to, plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.study import Study


def short_legs(study: Study) -> tuple[str, ...]:
    """Return the legs that carry less than is asked of them."""
    return tuple(
        leg_id
        for leg_id, capacities in study.capacities.items()
        if any(capacity.iz_a is not None and capacity.iz_a < needed_iz_a(study, leg_id)[0] for capacity in capacities)
    )


def leg_tries(study: Study, circuit: Circuit) -> Iterator[Try]:
    """Try another method or a larger size for each leg that fails by itself."""
    rulebook, legs = study.rulebook, {leg.id: leg for leg in circuit.legs}
    for leg_id in short_legs(study)[:4]:
        leg = legs[leg_id]
        title = circuit.leg_title(leg)
        title = title[:1].upper() + title[1:]
        if any(segment.method not in (None, "C") or segment.grouped_circuits > 1 for segment in leg.segments):
            clear = tuple(
                segment.model_copy(update={"method": "C", "grouped_circuits": 1, "insulation_mm": 0.0})
                for segment in leg.segments
            )
            yield Try(f"{title}: clipped direct, clear of insulation", _with_leg(circuit, leg, segments=clear), LAID)
        cable = circuit.cable_of(leg)
        for csa in [each for each in rulebook.listed_csas(cable, circuit.method) if each > cable.csa_mm2][:3]:
            thicker: Cable = cable.model_copy(update={"csa_mm2": csa, "cpc_mm2": None})
            yield Try(f"{title}: {plain(csa)} mm²", _with_leg(circuit, leg, cable=thicker), LEG)


def ahead_tries(study: Study, circuit: Circuit) -> Iterator[Try]:
    """Try a thicker feed, and another device ahead: one that breaks more, one of a lower rating."""
    rulebook = study.rulebook
    loaded = 3 if study.supply.phases == 3 else 2

    def with_ahead(index: int, **changes: object) -> Circuit:
        ahead = list(circuit.ahead)
        ahead[index] = ahead[index].model_copy(update=changes)
        return circuit.model_copy(update={"ahead": tuple(ahead)})

    for index, each in enumerate(circuit.ahead):
        if each.feed is not None:
            sizes = rulebook.listed_csas(each.feed, each.method, loaded)
            for csa in [size for size in sizes if size > each.feed.csa_mm2][:3]:
                feed = each.feed.model_copy(update={"csa_mm2": csa, "cpc_mm2": None})
                yield Try(f"{each.name or 'The feed'} in {plain(csa)} mm²", with_ahead(index, feed=feed), RUN)
        elif each.device is not None:
            name, kind_of = each.name or "The device ahead", rulebook.devices[each.device.standard]
            for capacity in kind_of.breaking_capacities_ka:
                if capacity > (each.device.breaking_capacity_ka or 0):
                    device = each.device.model_copy(update={"breaking_capacity_ka": capacity})
                    yield Try(f"{name} to break {plain(capacity)} kA", with_ahead(index, device=device), SHORTER)
            lower = [rating for rating in kind_of.ratings_a if rating < each.device.rating_a]
            for rating in sorted(lower, reverse=True)[:3]:
                device = each.device.model_copy(update={"rating_a": rating})
                yield Try(f"{name} at {plain(rating)} A", with_ahead(index, device=device), SHORTER)


def _with_leg(circuit: Circuit, leg: Leg, **changes: object) -> Circuit:
    changed = leg.model_copy(update=changes)
    return circuit.model_copy(update={"legs": tuple(changed if each.id == leg.id else each for each in circuit.legs)})


def shorter_tries(rulebook: Rulebook, supply: Supply, circuit: Circuit) -> Iterator[Try]:
    """Try the whole run as short as its failing length limits allow."""
    limits = [limit.factor for limit in reach(rulebook, supply, circuit).limits]
    factor = min(limits, default=1.0)
    if not 0.05 < factor < 1:
        return
    # A hair shorter than the limit, so that rounding cannot bring it back over.
    part = floor_to(factor, 4) - 0.0001
    legs = tuple(
        leg.model_copy(update={"segments": tuple(_shortened(segment, part) for segment in leg.segments)})
        for leg in circuit.legs
    )
    words = f"A run no longer than {floor_to(100 * part, 0):.0f} % of this"
    yield Try(words, circuit.model_copy(update={"legs": legs}), SHORTER)


def _shortened(segment: Segment, part: float) -> Segment:
    lengths = {name: getattr(segment, name) for name in ("length_m", "length_to_m")}
    return segment.model_copy(
        update={name: None if length is None else length * part for name, length in lengths.items()}
    )
