import './validation';
import * as z from 'zod';
import { scoreProblem, tellIssue, withoutDangling } from './check';
import { own } from './look-up';
import { migrated } from './migrations/migrations';
import type { Takes } from './resolve';
import {
  ledgerSchema,
  SONG_VERSION,
  songSchema,
  takeSchema,
  type Hearing,
  type Ledger,
  type Score,
  type Song,
  type Take,
} from './schema';

export type OpenedSong =
  /** `setAside` names what was too damaged to be read, or belonged to nothing. */
  | { readonly ok: true; readonly song: Song; readonly setAside: readonly string[] }
  | { readonly ok: false; readonly reason: string };

/** A song but for its takes, which are read one by one, so that a damaged one leaves the others. */
const frameSchema = songSchema
  .unwrap()
  .extend({ ledger: ledgerSchema.unwrap().extend({ takes: z.record(z.string(), z.unknown()) }) });

const headSchema = z.object({ format: z.literal('fendro-song'), version: z.number().int() });

type Raw = Record<string, unknown>;

const TAKES_AT_ONCE = 10;

/**
 * Opens what claims to be a song. Older versions are migrated; newer ones and other files are refused in words; a
 * damaged take is set aside and named while the rest opens.
 */
export function openSong(data: unknown): OpenedSong {
  const opening = openingSong(data);
  for (;;) {
    const step = opening.next();
    if (step.done) return step.value;
  }
}

/**
 * Opens what claims to be a song, in steps of a few takes each: for those who have other things to do meanwhile.
 *
 * @returns as {@link openSong} does
 */
export function* openingSong(data: unknown): Generator<void, OpenedSong> {
  const head = headSchema.safeParse(data);
  if (!head.success) return { ok: false, reason: 'This is not a Fendro song file.' };
  const { version } = head.data;
  if (version > SONG_VERSION) {
    return {
      ok: false,
      reason: `This song was saved by a newer Fendro (format ${version}; this one reads up to ${SONG_VERSION}). Update Fendro to open it.`,
    };
  }
  if (version < 1) return { ok: false, reason: `This is not a Fendro song file: there is no format ${version}.` };
  const raw = migrated(data as Raw, version);
  if (!raw)
    return { ok: false, reason: `This song of format ${version} is damaged: its score or its takes are missing.` };
  const parsed = frameSchema.safeParse(raw);
  if (!parsed.success) return { ok: false, reason: `This song is damaged: ${tellIssue(parsed.error)}` };
  const { takes, setAside } = yield* soundTakes(parsed.data.ledger.takes);
  const ledger: Ledger = { takes, heard: parsed.data.ledger.heard };
  const { hearing } = parsed.data;
  const { score, leftOut } = withoutDangling(parsed.data.score, takes);
  const problem = scoreProblem(score, ledger.takes, score);
  if (problem !== null) return { ok: false, reason: `This song is damaged: ${problem}` };
  return {
    ok: true,
    song: { ...parsed.data, score, ledger, hearing: stillThere(hearing, score, takes) },
    setAside: [...setAside, ...leftOut],
  };
}

/** The takes that can be read, and the names of those that cannot. */
function* soundTakes(
  raw: Readonly<Record<string, unknown>>,
): Generator<void, { takes: Record<string, Take>; setAside: string[] }> {
  const read: [string, Take][] = [];
  const setAside: string[] = [];
  for (const [place, [id, value]] of Object.entries(raw).entries()) {
    const take = takeSchema.safeParse(value);
    if (take.success && take.data.id === id) read.push([id, take.data]);
    else setAside.push(id);
    if (place % TAKES_AT_ONCE === TAKES_AT_ONCE - 1) yield;
  }
  return { takes: Object.fromEntries(read), setAside };
}

/** What is heard, as far as its sections and takes are there. */
function stillThere(hearing: Hearing, score: Score, takes: Takes): Hearing {
  const sections = new Set(score.sections.map(({ id }) => id));
  return Object.fromEntries(
    Object.entries(hearing)
      .filter(([section]) => sections.has(section))
      .map(([section, lines]) => [
        section,
        Object.fromEntries(Object.entries(lines).filter(([, take]) => own(takes, take) !== undefined)),
      ]),
  );
}
