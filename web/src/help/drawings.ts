/** Small line drawings for the glossary, 120 by 72; `line` is drawn thin, `part` thick: the part that is meant. */

export interface TermDrawing {
  line: string;
  part: string;
}

const circle = (x: number, y: number, r: number) =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;

export const DRAWINGS: Record<string, TermDrawing> = {
  gear_set: {
    line: `M4 40H44M4 48H44${circle(82, 34, 6)}`,
    part: "M44 32L62 38V50L44 56ZM62 22L70 8H94L102 22V46L94 60H70L62 46Z",
  },
  carrier: {
    line: `M8 30H34M8 42H34M86 30H112M86 42H112${circle(60, 36, 8)}`,
    part: "M34 22H50L56 10H72V62H56L50 50H34ZM72 20H86V52H72",
  },
  spider_gears: {
    line: "M6 32H32M6 40H32M88 32H114M88 40H114M60 4V68",
    part: "M32 22L46 28V44L32 50ZM88 22L74 28V44L88 50ZM48 8H72L66 22H54ZM48 64H72L66 50H54Z",
  },
  axle: {
    line: `${circle(12, 36, 10)}${circle(108, 36, 10)}M12 36H40M80 36H108`,
    part: "M22 31H42C46 16 74 16 78 31H98V41H78C74 56 46 56 42 41H22Z",
  },
  propshaft: {
    line: "M4 20H18M102 52H116",
    part: "M18 14V26M18 20L30 22M26 16L96 44M24 26L94 54M92 44L102 52M102 46V58",
  },
  propshaft_two: {
    line: "M4 20H14M106 52H116M14 14V26M106 46V58M14 20L54 32M66 36L106 52",
    part: `${circle(60, 34, 6)}${circle(60, 34, 12)}M60 4V22`,
  },
  slip_yoke: {
    line: "M6 30H40M6 42H40M10 30V42M18 30V42M26 30V42M34 30V42",
    part: "M34 24H76V48H34ZM76 24L98 14V26M76 48L98 58V46M98 20V52",
  },
  joint_cross: {
    line: `${circle(60, 36, 30)}`,
    part: "M54 8H66V30H88V42H66V64H54V42H32V30H54ZM50 8H70M50 64H70M32 26V46M88 26V46",
  },
  joint_cv: {
    line: "M4 36H34M86 36H116",
    part: `M34 20C48 12 66 14 74 24V48C66 58 48 60 34 52ZM74 28L86 32V40L74 44${circle(54, 26, 5)}${circle(54, 46, 5)}`,
  },
  angles: {
    line: "M4 22H40M80 50H116",
    part: "M40 22L80 50M40 22m14 0a14 14 0 0 1 -2.6 8M80 50m-14 0a14 14 0 0 1 2.6 -8",
  },
  bearing: {
    line: "M8 62H112M8 66H112",
    part: "M24 56L40 34H88L98 56ZM34 30L46 10H92V30ZM44 34L52 22L62 26L54 40Z",
  },
  bearing_cap: {
    line: `${circle(60, 44, 14)}`,
    part: "M28 44V26C34 8 86 8 92 26V44H74C74 26 46 26 46 44ZM34 14V44M86 14V44",
  },
  backlash: {
    line: "M8 64C40 60 80 60 112 64M30 62L36 40H48L54 62M66 62L72 40H84L90 62",
    part: "M46 10H74L66 46H54ZM40 52H52M80 52H68M44 49L40 52L44 55M76 49L80 52L76 55",
  },
  flank: {
    line: "M12 52L24 18H96L112 52Z",
    part: "M40 38C44 28 68 26 78 32C84 38 70 46 56 46C46 46 38 44 40 38Z",
  },
  depth: {
    line: `M96 6V66${circle(96, 36, 3)}M4 30H40M4 42H40`,
    part: "M40 24H46V48H40ZM46 22L62 26V46L46 50ZM64 60H94M68 57L64 60L68 63M90 57L94 60L90 63",
  },
  sleeve: {
    line: "M6 32H112M6 40H112M12 22H22V50H12ZM88 18H102V54H88Z",
    part: "M34 20H44L50 14H66L72 20H80V26H72L66 22H50L44 26H34ZM34 52H44L50 58H66L72 52H80V46H72L66 50H50L44 46H34Z",
  },
  dial: {
    line: "M60 58V70M54 70H66",
    part: `${circle(60, 32, 26)}M60 32L74 18M60 10V14M82 32H78M60 54V50M38 32H42`,
  },
  stand: {
    line: "M8 62H112M40 12H80",
    part: "M44 18H76V24H66V36H54V24H44ZM54 36L38 62M66 36L82 62M46 50H74",
  },
  gearbox: {
    line: "M4 36H22M98 36H116",
    part: "M22 14H40L50 22H86L98 30V44L86 50H50L40 58H22ZM52 22V10H68V22",
  },
  transfer: { line: "M4 24H30M90 24H116M4 52H44M76 52H116", part: "M30 12H90V36L76 62H44L30 36Z" },
  breather: { line: "M20 66H100", part: "M56 66V40H64V66M46 40H74V28H46ZM50 28C50 14 70 14 70 28" },
  pedal: { line: "M10 64H110M20 64L34 40", part: "M30 36L96 12L100 22L36 46Z" },
};
