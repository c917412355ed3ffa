/**
 * Frozen: from version 1 to version 2. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * Version 2 gave sections their own ground, a setting for the chord line and held bars, chords a melody to go under,
 * briefs length, voices, grid, rolls, dynamics and humanising, and the song an energy line that briefs may follow.
 */
type Raw = Record<string, unknown>;

/** What version 1 always did, in the settings that version 2 has for it. */
const LINE_SETTINGS = {
  length: 60,
  voices: 4,
  grid: null,
  rolls: 0,
  dynamics: 50,
  humanise: 0,
  follows: true,
} as const;
const CHORD_SETTING = {
  family: 'keyboard',
  spread: 'free',
  bass: 'as it comes',
  smooth: true,
  rhythm: null,
  loudness: 72,
  roll: 0,
} as const;

const withBrief = (owner: Raw): Raw => ({ ...owner, harmonyBrief: { under: null, ...(owner['harmonyBrief'] as Raw) } });
const withLine = (owner: Raw): Raw => ({ ...owner, brief: { ...LINE_SETTINGS, ...(owner['brief'] as Raw) } });

function take(old: Raw): Raw {
  const origin = old['origin'] as Raw | undefined;
  const asking = origin?.['asking'] as Raw | null | undefined;
  if (!asking) return old;
  return {
    ...old,
    origin: {
      ...origin,
      asking: asking['harmonyBrief'] ? withBrief(asking) : asking['brief'] ? withLine(asking) : asking,
    },
  };
}

export function from1to2(song: Raw): Raw {
  const score = song['score'] as Raw;
  const ledger = song['ledger'] as Raw;
  const takes = Object.fromEntries(
    Object.entries(ledger['takes'] as Record<string, Raw>).map(([id, old]) => [id, take(old)]),
  );
  const parts = (score['parts'] as Raw[]).map((part) => ({ style: null, ...withLine(part) }));
  const sections = (score['sections'] as Raw[]).map((section) => ({
    ...withBrief(section),
    ground: {},
    chordSetting: CHORD_SETTING,
    heldBars: [],
  }));
  return { ...song, version: 2, score: { ...score, energy: [], parts, sections }, ledger: { ...ledger, takes } };
}
