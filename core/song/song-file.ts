import './validation';
import * as z from 'zod';
import { PLAIN_CHORDS } from './briefs';
import { SONG_VERSION, songSchema, takeSchema, type Score, type Song, type Take } from './schema';

export type OpenedSong =
  | { readonly ok: true; readonly song: Song; readonly setAside: readonly string[] }
  | { readonly ok: false; readonly reason: string };

const headSchema = z.object({ format: z.literal('fendro-song'), version: z.number().int() });

type Raw = Record<string, unknown>;

/** What version 1 always did, in the settings that version 2 has for it. */
const LINE_SETTINGS = { length: 60, voices: 4, grid: null, rolls: 0, dynamics: 50, humanise: 0, follows: true } as const;

/** From each older version to the next. */
const MIGRATIONS: Readonly<Record<number, (song: Raw) => Raw>> = {
  // Version 2 gave sections their own ground, a setting for the chord line and held bars, chords a melody to go under, and
  // briefs length, voices, grid, rolls, dynamics and humanising, and the song an energy line that briefs may follow.
  1: (song) => {
    const withBrief = (owner: Raw): Raw => ({ ...owner, harmonyBrief: { under: null, ...(owner['harmonyBrief'] as Raw) } });
    const withLine = (owner: Raw): Raw => ({ ...owner, brief: { ...LINE_SETTINGS, ...(owner['brief'] as Raw) } });
    const section = (old: Raw): Raw => ({ ...withBrief(old), ground: {}, chordSetting: PLAIN_CHORDS, heldBars: [] });
    const take = (old: Raw): Raw => {
      const origin = old['origin'] as Raw | undefined;
      const asking = origin?.['asking'] as Raw | null | undefined;
      if (!asking) return old;
      return { ...old, origin: { ...origin, asking: asking['harmonyBrief'] ? withBrief(asking) : asking['brief'] ? withLine(asking) : asking } };
    };
    const score = song['score'] as Raw;
    const ledger = song['ledger'] as Raw;
    const takes = Object.fromEntries(Object.entries(ledger['takes'] as Record<string, Raw>).map(([id, old]) => [id, take(old)]));
    return { ...song, version: 2, score: { ...score, energy: [], parts: (score['parts'] as Raw[]).map((part) => ({ style: null, ...withLine(part) })), sections: (score['sections'] as Raw[]).map(section) }, ledger: { ...ledger, takes } };
  },
};

/** @returns the song in this build's version, or null when it is too damaged to be carried over */
function migrated(song: Raw, version: number): Raw | null {
  try {
    let now = song;
    for (let at = version; at < SONG_VERSION; at++) now = MIGRATIONS[at]?.(now) ?? now;
    return now;
  } catch {
    return null;
  }
}

/**
 * Opens what claims to be a song. Older versions are migrated; newer ones and other files are refused in words; a
 * damaged take is set aside and named while the rest opens.
 */
export function openSong(data: unknown): OpenedSong {
  const head = headSchema.safeParse(data);
  if (!head.success) return { ok: false, reason: 'This is not a Fendro song file.' };
  if (head.data.version > SONG_VERSION) {
    return { ok: false, reason: `This song was saved by a newer Fendro (format ${head.data.version}; this one reads up to ${SONG_VERSION}). Update Fendro to open it.` };
  }
  const raw = migrated(data as Raw, head.data.version);
  if (!raw) return { ok: false, reason: `This song of format ${head.data.version} is damaged: its score or its takes are missing.` };
  const { song, setAside } = withoutDamagedTakes(raw);
  const parsed = songSchema.safeParse(song);
  if (!parsed.success) return { ok: false, reason: `This song is damaged: ${firstIssue(parsed.error)}` };
  return { ok: true, song: { ...parsed.data, score: dropDangling(parsed.data.score, parsed.data.ledger.takes) }, setAside };
}

function withoutDamagedTakes(raw: Record<string, unknown>): { song: unknown; setAside: string[] } {
  const ledger = z.object({ takes: z.record(z.string(), z.unknown()), heard: z.unknown() }).safeParse(raw['ledger']);
  if (!ledger.success) return { song: raw, setAside: [] };
  const entries = Object.entries(ledger.data.takes).map(([id, take]) => [id, takeSchema.safeParse(take)] as const);
  const takes = Object.fromEntries(entries.flatMap(([id, take]) => (take.success ? [[id, take.data]] : [])));
  const setAside = entries.flatMap(([id, take]) => (take.success ? [] : [id]));
  return { song: { ...raw, ledger: { ...ledger.data, takes } }, setAside };
}

/** Choices of takes that are gone become empty rather than broken. */
function dropDangling(score: Score, takes: Readonly<Record<string, Take>>): Score {
  const there = (id: string | null): string | null => (id !== null && takes[id] ? id : null);
  return {
    ...score,
    sections: score.sections.map((section) => ({
      ...section,
      harmony: there(section.harmony),
      chosen: Object.fromEntries(Object.entries(section.chosen).map(([part, id]) => [part, there(id)])),
    })),
  };
}

/** The first thing wrong, with its place. */
function firstIssue(error: z.ZodError): string {
  const issue = error.issues[0];
  return issue ? `${issue.path.join(' › ') || 'the file'}: ${issue.message}` : 'unknown damage';
}
