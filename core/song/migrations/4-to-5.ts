/**
 * Frozen: from version 4 to version 5. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * Version 4 knew one attempt for a whole take, and a section named the take that a part plays. In version 5 every stage
 * of a draft has an attempt of its own, none where nothing was drafted, and a part's source says of what kind it is.
 */
type Raw = Record<string, unknown>;

function attempts({ asking, attempt }: Raw): Raw | null {
  return asking === null ? null : { plan: attempt, rhythm: attempt, pitch: attempt, dynamics: attempt };
}

function take(old: Raw): Raw {
  const origin = old['origin'] as Raw | undefined;
  if (!origin || 'attempts' in origin) return old;
  const { attempt: _gone, ...rest } = origin;
  return { ...old, origin: { ...rest, attempts: attempts(origin) } };
}

const source = (chosen: unknown): unknown => (typeof chosen === 'string' ? { of: 'take', take: chosen } : chosen);

function section(old: Raw): Raw {
  const chosen = Object.entries(old['chosen'] as Raw);
  return { ...old, chosen: Object.fromEntries(chosen.map(([part, id]) => [part, source(id)])) };
}

export function from4to5(song: Raw): Raw {
  const [score, ledger] = [song['score'] as Raw, song['ledger'] as Raw];
  const takes = Object.entries(ledger['takes'] as Record<string, Raw>);
  return {
    ...song,
    version: 5,
    score: { ...score, sections: (score['sections'] as Raw[]).map(section) },
    ledger: { ...ledger, takes: Object.fromEntries(takes.map(([id, old]) => [id, take(old)])) },
  };
}
