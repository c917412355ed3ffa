import { harmonyAsking, partAsking } from '@fendro/core/compose/asking';
import { draft } from '@fendro/core/compose/draft';
import { harmonyBriefFor } from '@fendro/core/song/briefs';
import { inDraftingOrder, roleOf } from '@fendro/core/song/roles';
import type { Asking, ChordSpan, Note, Part, PartTake, SectionKind } from '@fendro/core/song/schema';
import type { Style } from '@fendro/core/song/style';
import { looseTake } from '@fendro/core/song/take';
import { groundFor, partFrom } from '@fendro/core/styles/band';
import { tonicsFor } from '@fendro/core/theory/key';
import { barTicks } from '@fendro/core/theory/metre';
import { hashLabels } from '@fendro/core/trellis/random';

export const BARS = 8;

/** What one style's whole band plays over chords of its own. */
export interface Piece {
  readonly style: Style;
  readonly ground: Asking['ground'];
  readonly chords: readonly ChordSpan[];
  readonly parts: readonly { readonly part: Part; readonly notes: readonly Note[] }[];
}

/** The ground of one study piece: the style's first two scales in turn, in all keys. */
export function groundOf(style: Style, seed: number): Asking['ground'] {
  const scale = style.scales[seed % Math.min(2, style.scales.length)] ?? 'major';
  return groundFor(style, { tonic: tonicsFor(scale)[(seed * 7) % 12] ?? 0, scale });
}

/** A style's whole band over chords of its own, each line the first draw of its seed. */
/** A seed that differs from style to style. */
export const seedOf = (style: Style, seed: number): number => hashLabels(seed, [style.id]);

export function pieceOf(style: Style, number: number, kind: SectionKind = 'verse', bars = BARS): Piece {
  const ground = groundOf(style, number);
  const seed = seedOf(style, number);
  const place = { ground, bars, kind };
  const harmony = draft(
    { asking: harmonyAsking(place, harmonyBriefFor(kind, style.harmony)), seed, chords: null, beside: [] },
    0,
  );
  if (!harmony.ok || harmony.content.of !== 'harmony')
    throw new Error(`${style.name}: ${harmony.ok ? '' : harmony.reason}`);
  const { chords } = harmony.content;
  const made: PartTake[] = [];
  const band = style.band.map((own, index) => partFrom(own, `part-${index}`, index));
  const parts = inDraftingOrder(band).map((part) => {
    const beside = made.filter((take) => take.part === roleOf(part.role).listensTo);
    const request = { asking: partAsking(place, part), seed: hashLabels(seed, [part.id]), chords, beside };
    const result = draft(request, 0);
    if (!result.ok || result.content.of !== 'part')
      throw new Error(`${style.name}, ${part.name}: ${result.ok ? '' : result.reason}`);
    const { notes } = result.content;
    const length = bars * barTicks(ground.metre);
    // By its role, so that whoever listens finds it.
    made.push(looseTake({ id: `take of ${part.id}`, section: 's', length }, part.role, notes, { how: 'imported' }));
    return { part, notes };
  });
  return { style, ground, chords, parts };
}
