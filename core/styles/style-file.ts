import * as z from 'zod';
import { styleSchema, type Style } from '../song/style';
import { barTicks, beatsOf, METRES, metreName } from '../theory/metre';
import { SIXTEENTH } from '../theory/units';

/** The version that this build writes. In version 2 styles may have cells for melodies, loops and forms. */
const VERSION = 2;
const head = z.object({ format: z.literal('fendro-style'), version: z.number().int(), style: z.unknown() });

export type ReadStyle =
  | { readonly ok: true; readonly style: Style }
  | { readonly ok: false; readonly problems: readonly string[] };

/** Figures by what they are called for the writer, with their lines of steps. */
const figuresOf = ({
  comping,
  bass,
  grooves,
  fills,
  strums,
  picking,
  percussion,
}: Style): (readonly [where: string, steps: string])[] => [
  ...comping.map(({ name, steps }) => [`chords “${name}”`, steps] as const),
  ...bass.map(({ name, steps }) => [`bass “${name}”`, steps] as const),
  ...(strums ?? []).map(({ name, steps }) => [`strumming “${name}”`, steps] as const),
  ...(picking ?? []).map(({ name, steps }) => [`picking “${name}”`, steps] as const),
  ...[
    ...grooves.map((groove) => ['groove', groove] as const),
    ...fills.map((fill) => ['fill', fill] as const),
    ...(percussion ?? []).map((cell) => ['percussion', cell] as const),
  ].flatMap(([kind, { name, voices }]) =>
    Object.entries(voices).map(([drum, steps]) => [`${kind} “${name}”, ${drum}`, steps] as const),
  ),
];

/** What a style of the right form still gets wrong: unknown metres, bars of another length, tempos out of order. */
export function styleProblems(style: Style): string[] {
  const home = METRES.find((metre) => metreName(metre) === style.metres[0]);
  if (!home)
    return [`The home metre ${style.metres[0]} is not one that Fendro plays: ${METRES.map(metreName).join(', ')}.`];
  const unknown = style.metres.filter((name) => METRES.every((metre) => metreName(metre) !== name));
  const steps = barTicks(home) / SIXTEENTH;
  const wrong = figuresOf(style).flatMap(([where, text]) =>
    text
      .split('|')
      .flatMap((bar, index) =>
        bar.length === steps
          ? []
          : [
              `${where}: bar ${index + 1} has ${bar.length} steps, but a bar of ${style.metres[0]} has ${steps} sixteenths.`,
            ],
      ),
  );
  const beats = beatsOf(home).length;
  const uneven = (style.melody ?? []).flatMap(({ name, steps }) =>
    steps
      .split('|')
      .flatMap((bar, index) =>
        bar.split('-').length === beats
          ? []
          : [
              `melody “${name}”: bar ${index + 1} has ${bar.split('-').length} beats, but ${style.metres[0]} has ${beats}.`,
            ],
      ),
  );
  const { low, usual, high } = style.tempo;
  return [
    ...unknown.map((name) => `The metre ${name} is not one that Fendro plays.`),
    ...(low <= usual && usual <= high ? [] : [`The usual tempo ${usual} must lie between ${low} and ${high}.`]),
    ...wrong,
    ...uneven,
  ];
}

/** An issue at its place: “bass › 2 › steps: only R F O …”; places in lists are counted from 1. */
const told = ({ path, message }: z.core.$ZodIssue): string =>
  `${path.map((step) => (typeof step === 'number' ? step + 1 : String(step))).join(' › ') || 'the style'}: ${message}`;

/** Most problems that are told at once. */
const TOLD = 6;

/** Checks what claims to be a style. */
export function checkStyle(data: unknown): ReadStyle {
  const parsed = styleSchema.safeParse(data);
  if (!parsed.success) return { ok: false, problems: parsed.error.issues.slice(0, TOLD).map(told) };
  const problems = styleProblems(parsed.data);
  return problems.length > 0 ? { ok: false, problems: problems.slice(0, TOLD) } : { ok: true, style: parsed.data };
}

export const writeStyle = (style: Style): string =>
  JSON.stringify({ format: 'fendro-style', version: VERSION, style }, null, 2);

/** Reads a style file; whatever is wrong is told with its place, and nothing is half read. */
export function readStyle(text: string): ReadStyle {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return { ok: false, problems: ['This is not a style file: it is not JSON text.'] };
  }
  const parsed = head.safeParse(data);
  if (!parsed.success) return { ok: false, problems: ['This is not a Fendro style file.'] };
  if (parsed.data.version > VERSION)
    return {
      ok: false,
      problems: [
        `This style was saved by a newer Fendro (format ${parsed.data.version}; this one reads up to ` +
          `${VERSION}). Update Fendro to open it.`,
      ],
    };
  return checkStyle(parsed.data.style);
}
