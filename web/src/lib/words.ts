import type { Schemas, Station, Verdict } from "../api/client";

export const VERDICT_WORDS: Record<Verdict, string> = {
  in: "In",
  edge: "On the edge",
  out: "Out",
  unknown: "Not judged yet",
};

export const USES: { value: Schemas["JobIn"]["use"]; word: string }[] = [
  { value: "road", word: "Road" },
  { value: "towing", word: "Towing" },
  { value: "off_road", word: "Off-road" },
  { value: "rail", word: "Road and rail" },
  { value: "shore", word: "Shore and slipway" },
];

export const LAYOUTS: { value: Schemas["JobOut"]["layout"]; word: string }[] = [
  { value: "rear_drive", word: "Rear-wheel drive" },
  { value: "front_drive", word: "Front-wheel drive" },
  { value: "four_wheel_drive", word: "Four-wheel drive with a transfer case" },
  { value: "all_wheel_drive", word: "All-wheel drive with a rear final drive" },
  { value: "tractor", word: "Tractor" },
  { value: "quad", word: "Quad" },
  { value: "rail", word: "Road-rail vehicle" },
];

export const WAITS: { value: Schemas["JobOut"]["waits_for"]; word: string }[] = [
  { value: "nothing", word: "Nothing" },
  { value: "parts", word: "Parts" },
  { value: "cure", word: "Sealant to cure" },
  { value: "cool_down", word: "Cool-down" },
  { value: "customer", word: "Customer" },
];

export const STATION_STATES: { value: Station["state"]; word: string }[] = [
  { value: "not_looked_at", word: "Not checked" },
  { value: "in_work", word: "In work" },
  { value: "good", word: "Good" },
  { value: "fault", word: "Fault" },
];

export const ROLES: Record<Schemas["MeOut"]["role"], string> = {
  technician: "Technician",
  foreman: "Foreman",
  counter: "Counter",
  read_only: "Read only",
};

/** Families with adjusters turn notches, the others change shims. */
export function turnsNotches(method: Schemas["FamilyOut"]["carrier_method"]): boolean {
  return method === "adjusters";
}

/** What of a gear set had to be estimated, in the trade's words. */
export const ESTIMATED_WORDS: Record<string, string> = {
  offset_mm: "offset",
  pinion_spiral_deg: "pinion spiral angle",
  pressure_angle_deg: "pressure angle",
  cutter_radius_mm: "cutter radius",
  face_width_mm: "face width",
  blade_groups: "how it was cut",
  tooth_form: "tooth depth",
  drive_flank: "driving flank",
  ring_pitch_deg: "pitch angle",
  ease_drive: "relief of the drive flank",
  ease_coast: "relief of the coast flank",
};
