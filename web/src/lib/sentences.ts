/** The core's sentences name millimetres, newton-metres and kilometres an hour; here they follow the person. */

import type { LengthUnit, TorqueUnit } from "./quantity";

interface Conversion {
  from: string;
  to: string;
  per: number;
  digits: number;
}

const THOU: Conversion[] = [
  { from: "mm", to: "thou", per: 1 / 0.0254, digits: 1 },
  { from: "km/h", to: "mph", per: 1 / 1.609344, digits: 0 },
];
const INCHES: Conversion = { from: "mm", to: "in", per: 1 / 25.4, digits: 2 };
const INLB: Conversion = { from: "Nm", to: "in-lb", per: 1 / 0.112984829, digits: 1 };

const NUMBER = String.raw`\d+(?:\.\d+)?`;
const JOINED = String.raw`(?: to | ± | \+ | = |: )`;

/** Every figure before its unit, and those joined to it ("0.13 to 0.20 mm"), in the person's units; all other text stays. */
export function inPersonsUnits(text: string, unit: LengthUnit, torque: TorqueUnit = "nm"): string {
  const wanted = [...(unit === "thou" ? THOU : []), ...(torque === "inlb" ? [INLB] : [])];
  return wanted.reduce((said, conversion) => {
    const figures = new RegExp(
      `(?<![\\d.])(${NUMBER}(?:${JOINED}${NUMBER})*) ${conversion.from}(?![\\w/])`,
      "g",
    );
    return said.replace(figures, (_, run: string) => {
      // whole millimetres are lengths of shafts and strokes, which nobody tells in thousandths
      const { to, per, digits } = conversion.from === "mm" && !run.includes(".") ? INCHES : conversion;
      return `${run.replace(new RegExp(NUMBER, "g"), (one) => (Number(one) * per).toFixed(digits))} ${to}`;
    });
  }, text);
}
