import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";

const css = readFileSync(new URL("./theme.css", import.meta.url), "utf8");
const themes = [...css.matchAll(/theme" \{([^}]+)\}/g)].map((match) => {
  const tokens = Object.fromEntries(
    [...(match[1] ?? "").matchAll(/(--[\w-]+|name): ([^;]+);/g)].map((part) => [part[1], part[2]]),
  );
  return { name: String(tokens.name).replaceAll('"', ""), tokens };
});

/** WCAG luminance of an oklch() colour. */
function luminance(colour: string): number {
  const [l, c, h] = (colour.match(/[\d.]+/g) ?? []).map(Number) as [number, number, number];
  const [L, a, b] = [l / 100, c * Math.cos((h * Math.PI) / 180), c * Math.sin((h * Math.PI) / 180)];
  const cube = (x: number) => x ** 3;
  const [lc, mc, sc] = [
    cube(L + 0.3963377774 * a + 0.2158037573 * b),
    cube(L - 0.1055613458 * a - 0.0638541728 * b),
    cube(L - 0.0894841775 * a - 1.291485548 * b),
  ];
  const clip = (x: number) => Math.min(1, Math.max(0, x));
  const red = clip(4.0767416621 * lc - 3.3077115913 * mc + 0.2309699292 * sc);
  const green = clip(-1.2684380046 * lc + 2.6097574011 * mc - 0.3413193965 * sc);
  const blue = clip(-0.0041960863 * lc - 0.7034186147 * mc + 1.707614701 * sc);
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

function contrast(one: string, other: string): number {
  const [dark, light] = [luminance(one), luminance(other)].sort((x, y) => x - y) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

describe.each(themes)("theme $name", ({ tokens }) => {
  const token = (name: string) => tokens[`--${name}`] ?? "";
  it("has all 28 tokens", () => {
    expect(Object.keys(tokens).filter((name) => name.startsWith("--")).length).toBe(28);
  });
  it("is readable: each fill under its text", () => {
    for (const role of ["primary", "secondary", "accent", "neutral", "info", "success", "warning", "error"]) {
      expect(contrast(token(`color-${role}`), token(`color-${role}-content`)), role).toBeGreaterThan(4.5);
    }
  });
  it("is readable: text and the colours that words are set in, on every paper", () => {
    for (const paper of ["color-base-100", "color-base-200"]) {
      for (const ink of ["color-base-content", "color-error", "color-success", "color-warning"]) {
        expect(contrast(token(paper), token(ink)), `${ink} on ${paper}`).toBeGreaterThan(4.5);
      }
    }
  });
  it("keeps amber for what wants a hand next: it is no verdict's colour", () => {
    for (const role of ["success", "warning", "error", "info"])
      expect(token(`color-${role}`)).not.toBe(token("color-primary"));
  });
});

it("there are two themes, both our own", () => {
  expect(themes.map((theme) => theme.name)).toEqual(["bay", "pit"]);
  expect(css).toContain("themes: false");
});
