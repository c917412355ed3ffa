import { harmonyTake, NOTHING_HEARD, partTake, takesOf, type Music, type Takes } from '../../song/resolve';
import type { PartId, Score, SectionId } from '../../song/schema';
import { takeNumbers } from '../../song/take-numbers';
import { choicesOf } from '../../song/section';
import { nameApart } from '../../song/version-words';
import { placedSections } from '../../song/versions';
import {
  asWritten,
  deliverChords,
  deliverLines,
  deliverOneTrack,
  deliverSong,
  trackNames,
  type Delivery,
  type DeliveryOptions,
  type Stretch,
} from './deliver';
import { deliverSection, deliverTake } from './deliver-piece';
import type { MidiNote } from '../../theory/units';
import { songCourse } from '../../sounding/course';
import { perform } from '../../sounding/performance';
import type { Resolution } from '../midi/at-resolution';
import { drumsStruck, onPads, type DrumKeys } from '../midi/drum-layout';
import { withNamesApart } from './file-names';
import { fingerprintOf, type Fingerprint } from './fingerprint';

/** Of which kind a file is among those of a song: all of it, a part, its chords, a section, or a take. */
export type HandedGroup = 'whole' | 'parts' | 'chords' | 'sections' | 'takes';

/** A file of a song, and what it holds in the writer's words. */
export interface HandedFile {
  readonly group: HandedGroup;
  readonly what: string;
  readonly delivery: Delivery;
  /** Tells whether it is the same as one that was handed over before. */
  readonly print: Fingerprint;
  /** What its reader would not expect, where the whole song does not say it already. */
  readonly remarks: readonly string[];
}

/** All that a song hands over. */
export interface HandOver {
  readonly files: readonly HandedFile[];
  /** What holds of the song's files as a whole. */
  readonly remarks: readonly string[];
  /** Every drum that is struck, in the order of a kit, and the key that it is struck on in the files. */
  readonly drums: readonly (readonly [drum: MidiNote, key: MidiNote])[];
}

/** What of a song is handed over. */
export type HandedWhat =
  | { readonly kind: 'song' }
  | ({ readonly kind: 'stretch' } & Stretch)
  /** All takes of a part in a section. */
  | { readonly kind: 'takes'; readonly section: SectionId; readonly part: PartId };

export interface HandOverWish {
  readonly what: HandedWhat;
  /** True where files carry what hands add to the notes, as it is heard; else the notes as they are written. */
  readonly human: boolean;
  /** True where each voice of an ensemble is a line of its own. */
  readonly apart: boolean;
  /** True where the instruments that double a part are in its own track. */
  readonly layersTogether: boolean;
  /** True where every drum of a kit is a line of its own, by its name. */
  readonly drumsApart: boolean;
  /** Ticks to a quarter note. */
  readonly resolution: Resolution;
  /** How drums are laid out: on the keys of General MIDI, on pads in a row, or on keys of the writer's own. */
  readonly drums: 'general' | 'pads' | DrumKeys;
}

/** The chosen takes of a song, and the chords that they were made for: all that its files are made of. */
export function chosenMusic(score: Score, takes: Takes): Music {
  const chosen = score.sections.flatMap(choicesOf);
  const over = chosen.map((id) => partTake(takes, id)?.over?.harmony ?? null);
  const needed = [...chosen, ...over].flatMap((id) => partTake(takes, id) ?? harmonyTake(takes, id) ?? []);
  return { score, takes: Object.fromEntries(needed.map((take) => [take.id, take])), heard: NOTHING_HEARD };
}

/** The takes of a part in a section with the chords that sound there: all that their files are made of. */
function takesMusic(score: Score, takes: Takes, { section, part }: Extract<HandedWhat, { kind: 'takes' }>): Music {
  const { takes: chosen, heard } = chosenMusic(score, takes);
  const own = takesOf(takes, section, part);
  return { score, takes: { ...chosen, ...Object.fromEntries(own.map((take) => [take.id, take])) }, heard };
}

/** All that the files are made of that are asked for. */
export const musicFor = (score: Score, takes: Takes, what: HandedWhat): Music =>
  what.kind === 'takes' ? takesMusic(score, takes, what) : chosenMusic(score, takes);

type Found = Pick<HandedFile, 'group' | 'what' | 'delivery'>;

/** Files under names that differ, with what is told of each. @param remarks  what is told of all */
function handed(found: readonly Found[], remarks: readonly string[], drums: HandOver['drums']): HandOver {
  const named = withNamesApart(found.map(({ delivery }) => delivery));
  return {
    remarks,
    drums,
    files: found.map(({ group, what, delivery }, index) => ({
      group,
      what,
      delivery: named[index] ?? delivery,
      print: fingerprintOf(delivery.bytes),
      remarks: delivery.remarks.filter((remark) => !remarks.includes(remark)),
    })),
  };
}

/** Each take of a part in a section by itself, by its number. */
function handedTakes(
  music: Music,
  { section, part }: Extract<HandedWhat, { kind: 'takes' }>,
  options: DeliveryOptions,
  struckOn: HandOver['drums'],
): HandOver {
  const own = takesOf(music.takes, section, part);
  const numbers = takeNumbers(own);
  const found = own.flatMap((take): Found[] => {
    const delivery = take.of === 'part' ? deliverTake(music, take, options) : null;
    const number = numbers.get(take.id);
    if (!delivery || number === undefined) return [];
    const name = delivery.name.replace(/\.mid$/, ` - Take ${number}.mid`);
    return [{ group: 'takes', what: `Take ${number}`, delivery: { ...delivery, name } }];
  });
  return handed(found, [], struckOn);
}

/** Every drum that is struck in what is handed over. */
function drumsIn(music: Music, what: HandedWhat): readonly MidiNote[] {
  const { setup, events } = perform({ music, course: songCourse(music.score) });
  if (what.kind !== 'takes') return drumsStruck({ setup, events });
  const notes = takesOf(music.takes, what.section, what.part).flatMap((take) => (take.of === 'part' ? take.notes : []));
  const others = notes.map(
    ({ pitch }) => ({ kind: 'note', voice: what.part, at: 0, end: 1, pitch, velocity: 1 }) as const,
  );
  return drumsStruck({ setup, events: [...events, ...others] });
}

/** The files of a song in the order in which they are listed: the song, its lines, its chords, its sections. */
export function handOver(given: Music, { what, human, drums, ...wished }: HandOverWish): HandOver {
  const music = human ? given : { ...given, score: asWritten(given.score) };
  const struck = drumsIn(music, what);
  const keys = drums === 'pads' ? onPads(struck) : drums === 'general' ? null : drums;
  const how = { ...wished, ...(keys ? { drumKeys: keys } : {}) };
  const struckOn = struck.map((drum) => [drum, keys?.get(drum) ?? drum] as const);
  if (what.kind === 'takes') return handedTakes(music, what, how, struckOn);
  const options: DeliveryOptions = { ...how, stretch: what.kind === 'stretch' ? what : undefined };
  const whole = what.kind === 'stretch' ? what.name : 'The song';
  const song = deliverSong(music, options);
  const oneTrack = deliverOneTrack(music, options);
  const names = trackNames(music, options);
  const chords = deliverChords(music, options);
  const sections = what.kind === 'stretch' ? [] : placedSections(music.score);
  const found: readonly Found[] = [
    { group: 'whole', what: `${whole}, a track for each part`, delivery: song },
    ...(oneTrack.ok ? [{ group: 'whole', what: `${whole} in one track`, delivery: oneTrack.delivery } as const] : []),
    ...deliverLines(music, options)
      .map((delivery, index) => ({ group: 'parts', what: `${names[index]} alone`, delivery }) as const)
      // Who rests there has no file of a stretch.
      .filter(({ delivery }) => what.kind === 'song' || delivery.notes > 0),
    ...(chords ? [{ group: 'chords', what: 'The chords, as voiced and struck', delivery: chords } as const] : []),
    ...sections.flatMap((section): Found[] => {
      const delivery = deliverSection(music, section.id, options);
      return delivery ? [{ group: 'sections', what: `${nameApart(music, section)}, all parts`, delivery }] : [];
    }),
  ];
  return handed(found, oneTrack.ok ? song.remarks : [...song.remarks, oneTrack.reason], struckOn);
}
