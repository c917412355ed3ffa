import { listed } from '@fendro/core/song/limits';
import type { Aspect } from '@fendro/core/song/schema';

/** Bars counted from 0, `to` not included, as a musician says them: “Bar 3”, “Bars 3–4”. */
export const sayBars = ({ from, to }: { readonly from: number; readonly to: number }): string =>
  to - from === 1 ? `Bar ${from + 1}` : `Bars ${from + 1}–${to}`;

/** A pass counted from 0, as a musician says it: “pass 3”. */
export const sayPass = (pass: number): string => `pass ${pass + 1}`;

/** Any bars counted from 0 in words: “bar 3”, “bars 1–2 and 5”. */
export function listBars(bars: readonly number[]): string {
  const runs: { from: number; to: number }[] = [];
  for (const bar of [...bars].sort((a, b) => a - b)) {
    const last = runs.at(-1);
    if (last?.to === bar) last.to = bar + 1;
    else runs.push({ from: bar, to: bar + 1 });
  }
  const said = runs.map(({ from, to }) => (to - from === 1 ? `${from + 1}` : `${from + 1}–${to}`));
  return `${bars.length === 1 ? 'bar' : 'bars'} ${listed(said)}`;
}

/** An aspect in words, of notes or of chords. */
export const inWordsOf = (aspect: Aspect, chords: boolean): string =>
  aspect === 'pitch'
    ? chords
      ? 'the chords'
      : 'pitches'
    : aspect === 'rhythm' && chords
      ? 'when chords change'
      : aspect;
