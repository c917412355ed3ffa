/**
 * Frozen: from version 6 to version 7. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * Version 6 held chords alone, by their bars, and its logbook knew only which take was heard when. In version 7 every
 * line of a section has holds, each of a take, and every line of the logbook says in which section it was.
 */
type Raw = Record<string, unknown>;

const HELD = ['rhythm', 'pitch', 'dynamics'];

function section({ heldBars, ...old }: Raw): Raw {
  const [bars, take] = [heldBars as number[] | undefined, old['harmony'] as string | null];
  const held = bars !== undefined && bars.length > 0 && take !== null;
  return { holds: held ? { harmony: [{ take, aspects: HELD, bars, notes: [] }] } : {}, ...old };
}

export function from6to7(song: Raw): Raw {
  const [score, ledger] = [song['score'] as Raw, song['ledger'] as Raw];
  const takes = ledger['takes'] as Record<string, Raw | undefined>;
  const heard = (ledger['heard'] as Raw[]).flatMap((line): Raw[] => {
    const of = line['section'] ?? takes[line['take'] as string]?.['section'];
    return of === undefined ? [] : [{ section: of, ...line }];
  });
  return {
    ...song,
    version: 7,
    score: { ...score, sections: (score['sections'] as Raw[]).map(section) },
    ledger: { ...ledger, heard },
  };
}
