"""From flange faces to joint centres, and the length that a shaft is ordered by."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from amber_core import checks
from amber_core.driveline import axes
from amber_core.driveline.axes import AxisAngles, Chain, Vectors
from amber_core.errors import InvalidInput
from amber_core.words import say

_HEIGHT = say("Distance from flange face to joint centre must be 0 to 400 mm.")


@dataclass(frozen=True, slots=True, kw_only=True)
class FlangeFace:
    """Middle of a flange's face [mm: rearward, left, up], its axis along the chain, and how far the joint's centre stands off it [mm]."""

    face_mm: list[float]
    axis: list[float] | AxisAngles
    height_mm: float
    end: Literal["out", "output", "pin", "pinion"]
    chain: Chain = "rear"

    def __post_init__(self) -> None:
        axes.point(self.face_mm, "face_mm")
        axes.axis_vector(self.axis, "axis", self.chain)
        checks.within("height_mm", self.height_mm, 0.0, 400.0, _HEIGHT)


@dataclass(frozen=True, slots=True, kw_only=True)
class JointCentre:
    """Centre of the joint, [mm]."""

    joint_mm: list[float]


def joint_from_flange(given: FlangeFace) -> JointCentre:
    """Centre of the joint that is bolted to a flange.

    Parameters
    ----------
    given : FlangeFace
        Face, axis d along the chain, height h [mm].

    Returns
    -------
    JointCentre
        Face + h d at the output, face - h d at the pinion, [mm].

    Raises
    ------
    InvalidInput
        From FlangeFace, with the field.

    Notes
    -----
    d points along the chain, from the driver to the axle; h is the height of the flange yoke, face to joint centre.

    Examples
    --------
    >>> joint_from_flange(FlangeFace(face_mm=[100, 0, 0], axis=[1, 0, 0], height_mm=48, end="out")).joint_mm
    [148.0, 0.0, 0.0]
    """
    side = 1.0 if given.end in ("out", "output") else -1.0
    axis = axes.axis_vector(given.axis, "axis", given.chain)
    return JointCentre(joint_mm=(np.array(given.face_mm) + side * given.height_mm * axis).tolist())


@dataclass(frozen=True, slots=True, kw_only=True)
class FlangePair:
    """Both flange faces [mm], their axes, and the heights of their joints [mm]; an axis given the wrong way round is turned."""

    output_face_mm: list[float]
    output_axis: list[float] | AxisAngles
    output_height_mm: float
    pinion_face_mm: list[float]
    pinion_axis: list[float] | AxisAngles
    pinion_height_mm: float
    chain: Chain = "rear"

    def __post_init__(self) -> None:
        for name in ("output", "pinion"):
            axes.point(getattr(self, f"{name}_face_mm"), f"{name}_face_mm")
            axes.axis_vector(getattr(self, f"{name}_axis"), f"{name}_axis", self.chain)
            checks.within(f"{name}_height_mm", getattr(self, f"{name}_height_mm"), 0.0, 400.0, _HEIGHT)
        if float(np.linalg.norm(np.subtract(self.pinion_face_mm, self.output_face_mm))) < 1.0:
            raise InvalidInput("pinion_face_mm", say("The two flanges are in the same place. Check the figures."))


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftLength:
    """Joint centre to joint centre, and flange face to flange face, [mm]; the two joint centres [mm]."""

    length_mm: float
    face_to_face_mm: float
    output_joint_mm: list[float]
    pinion_joint_mm: list[float]


def shaft_length(given: FlangePair) -> ShaftLength:
    """Length of the shaft between two flanges.

    Parameters
    ----------
    given : FlangePair
        Faces, axes, heights, [mm].

    Returns
    -------
    ShaftLength
        |(pinion face - h_p d_p) - (output face + h_o d_o)|, [mm].

    Raises
    ------
    InvalidInput
        From FlangePair, with the field.

    Notes
    -----
    In line it is the distance of the faces less both heights. Measured at ride height, level, with the suspension loaded.

    Examples
    --------
    >>> pair = FlangePair(output_face_mm=[0, 0, 0], output_axis=[1, 0, 0], output_height_mm=40,
    ...     pinion_face_mm=[1000, 0, 0], pinion_axis=[-1, 0, 0], pinion_height_mm=50)
    >>> shaft_length(pair).length_mm
    910.0
    """
    faces: Vectors = np.array(given.pinion_face_mm) - np.array(given.output_face_mm)
    out = axes.along(axes.axis_vector(given.output_axis, "output_axis", given.chain), faces)
    pin = axes.along(axes.axis_vector(given.pinion_axis, "pinion_axis", given.chain), faces)
    first = np.array(given.output_face_mm) + given.output_height_mm * out
    last = np.array(given.pinion_face_mm) - given.pinion_height_mm * pin
    return ShaftLength(
        length_mm=float(np.linalg.norm(last - first)),
        face_to_face_mm=float(np.linalg.norm(faces)),
        output_joint_mm=first.tolist(),
        pinion_joint_mm=last.tolist(),
    )
