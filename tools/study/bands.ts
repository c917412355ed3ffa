import { draft } from '@fendro/core/compose/draft';
import { harmonyAsking, partAsking } from '@fendro/core/compose/asking';
import { draftTakes, featuresOf } from '@fendro/core/compose/takes';
import { harmonyBriefFor, PLAIN_CHORDS } from '@fendro/core/song/briefs';
import { isDrumRole } from '@fendro/core/song/roles';
import type { ChordSpan, Note } from '@fendro/core/song/schema';
import type { Style } from '@fendro/core/song/style';
import { grooved } from '@fendro/core/sounding/groove';
import { felt } from '@fendro/core/sounding/feel';
import { isLoop, risingFourths } from '@fendro/core/study/band-measures';
import { distance } from '@fendro/core/study/features';
import { newSection, partFrom } from '@fendro/core/styles/band';
import { isMinorish } from '@fendro/core/theory/key';
import { barTicks, metricalWeight, WEIGHT } from '@fendro/core/theory/metre';
import { pitchClassOf } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { isDeadEnd } from '@fendro/core/trellis/trellis';
import { wishFor } from '@fendro/core/voicing/chord-line';
import { averageMotion, rootPositions, voiceChords } from '@fendro/core/voicing/voicing';
import { BARS, groundOf, pieceOf, seedOf, type Piece } from './pieces';
import { mean, median } from './two-sided';

/** What a style's chords do over some verses and choruses. */
export interface HarmonyFigures {
  readonly fourths: readonly number[];
  readonly loops: number;
  readonly twelveBars: number;
  /** Dominants of minor keys with their leading note; null where there were none. */
  readonly leading: number | null;
}

/** Drafts progressions in a style, a verse and a chorus for each seed. */
export function harmonyOf(style: Style, seeds: number): HarmonyFigures {
  const all = Array.from({ length: seeds }, (_, index) => index + 1).flatMap((number) =>
    (['verse', 'chorus'] as const).flatMap((kind) => {
      const ground = groundOf(style, number);
      const { bars } = newSection(style, kind, kind);
      const asking = harmonyAsking({ ground, bars, kind }, harmonyBriefFor(kind, style.harmony));
      const result = draft({ asking, seed: seedOf(style, number), chords: null, beside: [] }, 0);
      if (!result.ok || result.content.of !== 'harmony') return [];
      return [{ ground, bars, chords: result.content.chords }];
    }),
  );
  const share = (test: (item: (typeof all)[number]) => boolean): number => all.filter(test).length / all.length;
  const dominants = all.flatMap(({ ground, chords }) =>
    isMinorish(scaleOf(ground.scale))
      ? chords.flatMap(({ chord }) =>
          chord && (pitchClassOf(chord.root) - pitchClassOf(ground.tonic) + 12) % 12 === 7
            ? [chord.tones.includes('3')]
            : [],
        )
      : [],
  );
  return {
    fourths: all.flatMap(({ chords }) => risingFourths(chords) ?? []),
    loops: share(({ chords, ground, bars }) =>
      isLoop(chords, 4 * barTicks(ground.metre), bars * barTicks(ground.metre)),
    ),
    twelveBars: share(({ chords, ground, bars }) => isTwelveBars(chords, bars, pitchClassOf(ground.tonic))),
    leading: dominants.length === 0 ? null : dominants.filter(Boolean).length / dominants.length,
  };
}

/** The turning points of the twelve-bar blues, whatever lies between them. */
function isTwelveBars(chords: readonly ChordSpan[], bars: number, tonic: number): boolean {
  if (bars !== 12 || chords.length < 12) return false;
  const roots = chords.map(({ chord }) => (chord ? (pitchClassOf(chord.root) - tonic + 12) % 12 : -1));
  return roots[0] === 0 && roots[4] === 5 && roots[6] === 0 && roots[8] === 7 && roots[10] === 0;
}

/** Motion per voice and change, and against root positions. */
export function leadingOf({ chords }: Piece): { smooth: number; plain: number } | null {
  const sounding = chords.flatMap((span) => (span.chord ? [{ chord: span.chord }] : []));
  const wish = wishFor(PLAIN_CHORDS);
  const smooth = voiceChords(sounding, wish);
  return isDeadEnd(smooth)
    ? null
    : { smooth: averageMotion(smooth), plain: averageMotion(rootPositions(sounding, wish)) };
}

/** Median distance of each of eight takes to its nearest other: chosen from a pool, and eight plain draws. */
export function varietyOf(style: Style, number: number): { chosen: number; plain: number } {
  const { ground, chords } = pieceOf(style, number);
  const band = style.band.find(({ role }) => role === 'melody') ?? style.band[0];
  if (!band) return { chosen: 0, plain: 0 };
  const part = partFrom(band, 'p', 0);
  const asking = partAsking({ ground, bars: BARS, kind: 'verse' }, part);
  const request = { asking, seed: seedOf(style, number), chords, beside: [] };
  const [length, bar] = [BARS * barTicks(ground.metre), barTicks(ground.metre)];
  const nearest = (contents: Parameters<typeof featuresOf>[0][]): number => {
    const features = contents.map((content) => featuresOf(content, length, bar));
    return median(
      features.map((own, index) =>
        Math.min(...features.filter((_, other) => other !== index).map((other) => Math.sqrt(distance(own, other)))),
      ),
    );
  };
  const chosen = [...draftTakes(request, 0, 8, new Set())].flatMap((step) =>
    step.kind === 'take' ? [step.take.content] : [],
  );
  const plain = Array.from({ length: 8 }, (_, attempt) => draft(request, 100 + attempt)).flatMap((result) =>
    result.ok ? [result.content] : [],
  );
  return { chosen: nearest(chosen), plain: nearest(plain) };
}

/** Semitone clashes of the melody on beats, registers shared with it, and how often bass and kick strike together. */
export function togetherOf({ ground, parts }: Piece): { clash: number; overlap: number; locked: number } {
  const line = parts.find(({ part }) => part.role === 'melody');
  const rest = parts.filter(({ part }) => part.role !== 'melody' && !isDrumRole(part.role));
  const strong = (line?.notes ?? []).filter(({ start }) => metricalWeight(ground.metre, start) >= WEIGHT.beat);
  const sounds = (note: Note, at: number): boolean => note.start <= at && at < note.start + note.duration;
  const clash =
    strong.filter(({ start, pitch }) =>
      rest.some(({ notes }) => notes.some((note) => sounds(note, start) && Math.abs(note.pitch - pitch) === 1)),
    ).length / Math.max(1, strong.length);
  const pitches = (line?.notes ?? []).map(({ pitch }) => pitch);
  const [low, high] = [Math.min(...pitches), Math.max(...pitches)];
  const others = rest
    .filter(({ part, notes }) => part.role !== 'bass' && notes.length > 0)
    .map(({ notes }) => notes.filter(({ pitch }) => pitch >= low && pitch <= high).length / notes.length);
  const kicks = new Set(
    parts
      .find(({ part }) => part.role === 'drums')
      ?.notes.filter(({ pitch }) => pitch === 36)
      .map(({ start }) => start) ?? [],
  );
  const bass = parts.find(({ part }) => part.role === 'bass')?.notes ?? [];
  return {
    clash,
    overlap: mean(others),
    locked: kicks.size === 0 ? NaN : bass.filter(({ start }) => kicks.has(start)).length / Math.max(1, bass.length),
  };
}

/** The widest distance between onsets of a band that are written at one moment, in ms at the style's usual tempo. */
export function apartOf({ style, ground, parts }: Piece): number {
  const bar = barTicks(ground.metre);
  const heard = new Map<number, number[]>();
  for (const { part, notes } of parts) {
    for (const note of notes) {
      const alone = [{ ...note, nudge: 0 }];
      const sounding = felt(grooved(alone, ground), style.feel, 100, part.role, bar)[0];
      if (sounding && note.start >= 0) heard.set(note.start, [...(heard.get(note.start) ?? []), sounding.start]);
    }
  }
  const widest = Math.max(...[...heard.values()].map((starts) => Math.max(...starts) - Math.min(...starts)));
  return (widest / 480) * (60_000 / ground.tempo);
}
