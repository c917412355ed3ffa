import './validation';
import * as z from 'zod';
import { scoreProblem, tellIssue, withoutDangling } from './check';
import { own } from './look-up';
import { migrated } from './migrations/migrations';
import { SONG_VERSION, songSchema, takeSchema, type Hearing, type Song } from './schema';

export type OpenedSong =
  /** `setAside` names what was too damaged to be read, or belonged to nothing. */
  | { readonly ok: true; readonly song: Song; readonly setAside: readonly string[] }
  | { readonly ok: false; readonly reason: string };

const headSchema = z.object({ format: z.literal('fendro-song'), version: z.number().int() });

type Raw = Record<string, unknown>;

/**
 * Opens what claims to be a song. Older versions are migrated; newer ones and other files are refused in words; a
 * damaged take is set aside and named while the rest opens.
 */
export function openSong(data: unknown): OpenedSong {
  const head = headSchema.safeParse(data);
  if (!head.success) return { ok: false, reason: 'This is not a Fendro song file.' };
  const { version } = head.data;
  if (version > SONG_VERSION) {
    return { ok: false, reason: `This song was saved by a newer Fendro (format ${version}; this one reads up to ${SONG_VERSION}). Update Fendro to open it.` };
  }
  if (version < 1) return { ok: false, reason: `This is not a Fendro song file: there is no format ${version}.` };
  const raw = migrated(data as Raw, version);
  if (!raw) return { ok: false, reason: `This song of format ${version} is damaged: its score or its takes are missing.` };
  const { song, setAside } = withoutDamagedTakes(raw);
  const parsed = songSchema.safeParse(song);
  if (!parsed.success) return { ok: false, reason: `This song is damaged: ${tellIssue(parsed.error)}` };
  const { ledger, hearing } = parsed.data;
  const { score, leftOut } = withoutDangling(parsed.data.score, ledger.takes);
  const problem = scoreProblem(score, ledger.takes);
  if (problem !== null) return { ok: false, reason: `This song is damaged: ${problem}` };
  return { ok: true, song: { ...parsed.data, score, hearing: stillThere(hearing, parsed.data) }, setAside: [...setAside, ...leftOut] };
}

function withoutDamagedTakes(raw: Raw): { song: unknown; setAside: string[] } {
  const ledger = z.object({ takes: z.record(z.string(), z.unknown()), heard: z.unknown() }).safeParse(raw['ledger']);
  if (!ledger.success) return { song: raw, setAside: [] };
  const entries = Object.entries(ledger.data.takes).map(([id, take]) => [id, takeSchema.safeParse(take)] as const);
  const takes = Object.fromEntries(entries.flatMap(([id, take]) => (take.success && take.data.id === id ? [[id, take.data]] : [])));
  const setAside = entries.flatMap(([id]) => (Object.hasOwn(takes, id) ? [] : [id]));
  return { song: { ...raw, ledger: { ...ledger.data, takes } }, setAside };
}

/** What is heard, as far as its sections and takes are there. */
function stillThere(hearing: Hearing, { score, ledger }: Song): Hearing {
  const sections = new Set(score.sections.map(({ id }) => id));
  return Object.fromEntries(
    Object.entries(hearing)
      .filter(([section]) => sections.has(section))
      .map(([section, lines]) => [section, Object.fromEntries(Object.entries(lines).filter(([, take]) => own(ledger.takes, take) !== undefined))]),
  );
}
