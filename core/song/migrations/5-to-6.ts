/**
 * Frozen: from version 5 to version 6. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * Version 5 knew no plan of the song. In version 6 a song has motifs, every section says what it does with one and
 * whether it is bound to the plan, and chords may be asked for in a form; what was drafted before was asked for in none.
 */
type Raw = Record<string, unknown>;

const withForm = (brief: unknown): unknown => (brief === undefined ? brief : { form: null, ...(brief as Raw) });

function section(old: Raw): Raw {
  return { plan: { bound: true, motif: null, use: 'states' }, ...old, harmonyBrief: withForm(old['harmonyBrief']) };
}

function take(old: Raw): Raw {
  const origin = old['origin'] as Raw | undefined;
  const asking = origin?.['asking'] as Raw | null | undefined;
  if (!origin || !asking || !('harmonyBrief' in asking)) return old;
  return { ...old, origin: { ...origin, asking: { ...asking, harmonyBrief: withForm(asking['harmonyBrief']) } } };
}

export function from5to6(song: Raw): Raw {
  const [score, ledger] = [song['score'] as Raw, song['ledger'] as Raw];
  const takes = Object.entries(ledger['takes'] as Record<string, Raw>);
  return {
    ...song,
    version: 6,
    score: { motifs: [], ...score, sections: (score['sections'] as Raw[]).map(section) },
    ledger: { ...ledger, takes: Object.fromEntries(takes.map(([id, old]) => [id, take(old)])) },
  };
}
