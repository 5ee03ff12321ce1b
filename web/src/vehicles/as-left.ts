import type { Schemas } from "../api/client";

type Line = Schemas["LeftLineOut"];

export interface AssemblyLeft {
  place: string;
  label: string;
  columns: { work_id: string; job_id: string; number: number; at: string | null }[];
  rows: { name: string; what: string; cells: (Line | null)[] }[];
}

/** What every assembly was left with, a column a visit, the latest first; what was never read has no row. */
export function assemblies(visits: Schemas["VisitOut"][]): AssemblyLeft[] {
  const found: AssemblyLeft[] = [];
  for (const visit of visits)
    for (const left of visit.left) {
      if (left.lines.length === 0) continue;
      let part = found.find((one) => one.place === left.place);
      if (part === undefined) {
        part = { place: left.place, label: left.label, columns: [], rows: [] };
        found.push(part);
      }
      const before = part.columns.length;
      part.columns.push({
        work_id: left.work_id,
        job_id: visit.job_id,
        number: visit.number,
        at: left.signed_off_at,
      });
      for (const line of left.lines)
        if (!part.rows.some((row) => row.name === line.name))
          part.rows.push({
            name: line.name,
            what: line.what,
            cells: Array.from({ length: before }, () => null),
          });
      for (const row of part.rows) row.cells.push(left.lines.find((line) => line.name === row.name) ?? null);
    }
  return found;
}

/** Readings of one quantity from the first visit on, each found and then left, with their height between the least and the greatest. */
export function trend(cells: (Line | null)[]): { found: boolean; said: string; height: number }[] {
  const read = [...cells]
    .reverse()
    .flatMap((cell) => [
      ...(cell?.found_value == null ? [] : [{ found: true, said: cell.found, value: cell.found_value }]),
      ...(cell?.value == null ? [] : [{ found: false, said: cell.said, value: cell.value }]),
    ]);
  const [least, greatest] = [Math.min, Math.max].map((most) => most(...read.map((one) => one.value)));
  const span = (greatest ?? 0) - (least ?? 0);
  return read.map(({ found, said, value }) => ({
    found,
    said,
    height: span > 0 ? (value - (least ?? 0)) / span : 0.5,
  }));
}
