"""The open format firkin-reckoning/1: a reckoned formula as plain data."""

from typing import Any

from firkin.core.audit import Finding
from firkin.core.formula import Active, Reckoning
from firkin.exchange.rounding import rounded

FORMAT = "firkin-reckoning/1"


def reckoning_to_dict(result: Reckoning, findings: tuple[Finding, ...]) -> dict[str, Any]:
    """The document of a reckoning and its findings."""
    total = result.total
    return {
        "format": FORMAT,
        "lines": [
            {
                "material": line.material.id,
                "volume_mL": rounded(line.volume_mL),
                "mass_g": rounded(line.mass_g),
                "share_v_pct": rounded(line.share_v_pct),
                "share_w_pct": rounded(line.share_w_pct),
            }
            for line in result.lines
        ],
        "total": {
            "sum_of_volumes_mL": rounded(total.sum_of_volumes_mL),
            "volume_mL": rounded(total.volume_mL),
            "mass_g": rounded(total.mass_g),
            "density_g_per_mL": rounded(total.density),
            "contraction_pct": round(total.contraction_pct, 6) + 0.0,
        },
        "actives": [_active(active) for active in result.actives],
        "verdicts": [
            {
                "guideline": verdict.guideline,
                "active": verdict.active,
                "minimum": verdict.minimum,
                "maximum": verdict.maximum,
                "verdict": verdict.verdict,
                "margin_points": rounded(verdict.margin_points),
            }
            for verdict in result.verdicts
        ],
        "findings": findings_to_list(findings),
    }


def findings_to_list(findings: tuple[Finding, ...]) -> list[dict[str, Any]]:
    """Findings as every document holds them."""
    return [
        {
            "rule": finding.rule,
            "severity": finding.severity,
            "lines": list(finding.lines),
            "text": finding.text,
            "fix": finding.fix,
            **({"choices": list(finding.choices)} if finding.choices else {}),
        }
        for finding in findings
    ]


def _active(active: Active) -> dict[str, Any]:
    if not active.is_alcohol:
        return {"active": active.active, "basis": active.basis, "label_pct": rounded(active.label)}
    return {
        "active": active.active,
        "label_pct_vv": rounded(active.label),
        "true_pct_vv": rounded(active.true),
        "pct_ww": rounded(active.pct_ww),
        "pct_wv": rounded(active.pct_wv),
        "low_pct_vv": rounded(active.low),
        "high_pct_vv": rounded(active.high),
    }
