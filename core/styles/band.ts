import { harmonyBriefFor, PLAIN_CHORDS, USUAL_BARS } from '../song/briefs';
import { nameOfKind } from '../song/edit';
import { NO_PLAN } from '../song/plan';
import type { Ground, Part, Role, Score, Section, SectionKind } from '../song/schema';
import { withStyle } from './styles';
import { METRES, metreName } from '../theory/metre';
import type { BandPart, Style } from '../song/style';
import { roleOf } from '../song/roles';

/** A part as a style sets it up. */
export function partFrom(band: BandPart, id: string, colour: number): Part {
  const { role, name, instrument, level, pan, brief } = band;
  return {
    id,
    name,
    role,
    instrument,
    colour: colour % 10,
    level,
    pan,
    muted: false,
    style: null,
    swaps: {},
    brief: { ...roleOf(role).brief, ...brief },
  };
}

/** A song's parts as the band of a style. */
export const bandOf = ({ parts }: Pick<Score, 'parts'>): BandPart[] =>
  parts.map(({ role, name, instrument, level, pan, brief }) => ({ role, name, instrument, level, pan, brief }));

/** A new part of some role: as the style has it, or with a fitting instrument where the style has none. */
export function newPart(style: Style, role: Role, id: string, colour: number): Part {
  const band = style.band.find((part) => part.role === role);
  const { name, instrument } = roleOf(role);
  return partFrom(band ?? { role, name, instrument, level: 68, pan: 0, brief: {} }, id, colour);
}

/** A colour that no part of the song has yet, as far as there are any left. */
export const freeColour = ({ parts }: Score): number =>
  [0, 1, 2, 3, 4, 5, 6, 7, 8, 9].find((colour) => parts.every((part) => part.colour !== colour)) ?? parts.length % 10;

/** A new section with nothing in it. */
export const newSection = (style: Style, kind: SectionKind, id: string, name = nameOfKind(kind)): Section => ({
  id,
  version: null,
  kind,
  name,
  bars: style.harmony.bars?.[kind] ?? USUAL_BARS[kind],
  harmony: null,
  harmonyBrief: harmonyBriefFor(kind, style.harmony),
  ground: {},
  chordSetting: PLAIN_CHORDS,
  plan: NO_PLAN,
  solos: [],
  holds: {},
  chosen: {},
});

/** A style's usual tempo, metre and swing over a key. */
export function groundFor(style: Style, key: Pick<Ground, 'tonic' | 'scale'>): Ground {
  const metre = METRES.find((candidate) => metreName(candidate) === style.metres[0]) ?? METRES[2];
  if (!metre) throw new RangeError('no metre');
  return { ...key, tempo: style.tempo.usual, metre, swing: style.swing, style: style.id };
}

/**
 * The score of a new song: the style's band and one empty verse.
 *
 * @param newId  makes ids, given what for; sections need ids that no other song has
 */
export function startScore(
  title: string,
  ground: Ground,
  style: Style,
  newId: (kind: string) => string = (kind) => `${kind}-1`,
): Score {
  const section = newSection(style, 'verse', newId('section'));
  return {
    title,
    ground,
    parts: style.band.map((band, index) => partFrom(band, `part-${index + 1}`, index)),
    sections: [section],
    order: [{ id: 'occurrence-1', section: section.id }],
    motifs: [],
    energy: [],
    remarks: {},
    styles: [],
  };
}

/** What of a song a style that is applied may change. */
export interface StyleChange {
  /** Tempo, metre and swing become the style's usual ones; otherwise only swing. */
  readonly pace: boolean;
  /** Parts that play roles of the style get its instruments and levels; otherwise they keep theirs. */
  readonly sounds: boolean;
  /** Parts that the style has and the song lacks are added. */
  readonly missing: boolean;
}

/**
 * Applies a style to a song: its dialect and figures for whatever is drafted from now on, its briefs for parts of the
 * same role, and what is asked for besides. Takes stay as they are.
 */
export function applyStyle(score: Score, style: Style, change: StyleChange, newId: () => string): Score {
  const usual = groundFor(style, score.ground);
  const ground: Ground = {
    ...score.ground,
    style: style.id,
    swing: style.swing,
    ...(change.pace ? { tempo: usual.tempo, metre: usual.metre } : {}),
  };
  const open = [...style.band];
  const parts = score.parts.map((part): Part => {
    const place = open.findIndex(({ role }) => role === part.role);
    const band = open[place];
    if (!band) return part;
    open.splice(place, 1);
    const fresh = partFrom(band, part.id, part.colour);
    return {
      ...part,
      brief: fresh.brief,
      ...(change.sounds ? { instrument: fresh.instrument, level: fresh.level, pan: fresh.pan } : {}),
    };
  });
  const added = change.missing ? open.map((band, index) => partFrom(band, newId(), parts.length + index)) : [];
  return withStyle({ ...score, ground, parts: [...parts, ...added] }, style);
}
