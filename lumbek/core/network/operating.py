"""Correcting a tabulated voltage drop for the temperature the conductor really reaches."""

LIMIT_C = {"pvc70": 70.0, "xlpe90": 90.0}


def temperature_factor_ct(
    ib_a: float, it_a: float, insulation: str = "pvc70", ca: float = 1.0, cg: float = 1.0, cs: float = 1.0
) -> float:
    """Return Ct, the factor on the resistive part of mV/A/m (BS 7671 Appendix 4, 6.1).

    Ct = (230 + tp - (Ca² Cg² Cs² - Ib²/It²)(tp - 30)) / (230 + tp), with tp the insulation's limit in °C.
    Currents in A; never above 1, for the table holds the conductor at tp. Raises ValueError for It <= 0.
    """
    if it_a <= 0:
        raise ValueError("It must be above 0 A")
    tp = LIMIT_C[insulation]
    cooler = (ca**2 * cg**2 * cs**2 - ib_a**2 / it_a**2) * (tp - 30)
    return min(1.0, (230 + tp - cooler) / (230 + tp))
