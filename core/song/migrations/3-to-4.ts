/**
 * Frozen: from version 3 to version 4. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * Version 3 told what a take lies over by what it was asked for, and so said of a take that followed other chords that it
 * had been drafted to them. Version 4 parts the two: `over` is what a take follows, and the asking is what it was drafted
 * from, or nothing. Every note has an id.
 */
type Raw = Record<string, unknown>;

/** Only these followed chords by themselves. */
const FOLLOWED: readonly unknown[] = ['drafted', 'fitted', 'voiced'];

function over({ how, asking }: Raw): Raw | null {
  const asked = asking as Raw | null | undefined;
  const [brief, ground] = [asked?.['brief'] as Raw | undefined, asked?.['ground'] as Raw | undefined];
  if (!asked || !brief || !ground || !asked['role'] || !asked['harmony'] || !FOLLOWED.includes(how)) return null;
  return {
    harmony: asked['harmony'],
    tonic: ground['tonic'],
    scale: ground['scale'],
    role: asked['role'],
    low: brief['low'],
    high: brief['high'],
  };
}

/** What a take was drafted from: of a fitted one, what the take was asked for that it was made of. */
function asking({ how, asking: own, parents }: Raw, takes: Record<string, Raw>): unknown {
  if (how === 'drafted') return own;
  if (how !== 'fitted') return null;
  const parent = takes[String((parents as unknown[] | undefined)?.[0])]?.['origin'] as Raw | undefined;
  return parent?.['how'] === 'drafted' ? parent['asking'] : null;
}

function take(old: Raw, takes: Record<string, Raw>): Raw {
  const origin = old['origin'] as Raw | undefined;
  if (!origin) return old;
  const moved = { ...old, origin: { ...origin, asking: asking(origin, takes) } };
  if (old['of'] !== 'part' || 'over' in old) return moved;
  const notes = old['notes'];
  return {
    ...moved,
    notes: Array.isArray(notes) ? notes.map((note: Raw, id) => ({ ...note, id })) : notes,
    over: over(origin),
  };
}

export function from3to4(song: Raw): Raw {
  const ledger = song['ledger'] as Raw;
  const takes = ledger['takes'] as Record<string, Raw>;
  return {
    ...song,
    version: 4,
    ledger: { ...ledger, takes: Object.fromEntries(Object.entries(takes).map(([id, old]) => [id, take(old, takes)])) },
  };
}
