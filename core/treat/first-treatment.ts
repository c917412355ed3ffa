import type { Treatment, TreatmentName } from '../song/schema';

/** What each treatment does until the writer says otherwise: as it is asked for most. */
export const FIRST: { readonly [Name in TreatmentName]: Extract<Treatment, { readonly does: Name }> } = {
  octave: { does: 'octave', by: 1 },
  transpose: { does: 'transpose', by: 7 },
  stack: { does: 'stack', of: 'scale', steps: [2] },
  arpeggiate: { does: 'arpeggiate', order: 'up', rate: 240, repeats: 1, further: 1, distance: 12 },
  strum: { does: 'strum', way: 'up', spread: 90 },
  echo: { does: 'echo', times: 2, gap: 360, fade: 35 },
  delay: { does: 'delay', by: 240 },
  stray: { does: 'stray', chance: 30, of: 'scale', up: 2, down: 2 },
  snap: { does: 'snap', to: 'chord' },
  invert: { does: 'invert', around: 'first', of: 'scale' },
  reverse: { does: 'reverse' },
  time: { does: 'time', times: 2, over: 1 },
  length: { does: 'length', percent: 50 },
  legato: { does: 'legato' },
  thin: { does: 'thin', chance: 70 },
  loudness: { does: 'loudness', way: 'scale', low: 40, high: 100, percent: 80 },
  humanise: { does: 'humanise', amount: 40 },
  voice: { does: 'voice', which: 'highest' },
};

/** In the order in which they are offered: pitch, then time, then touch. */
export const TREATMENTS = Object.keys(FIRST) as TreatmentName[];
