import { harmonyTake, NOTHING_HEARD, partTake, type Music, type Takes } from '../../song/resolve';
import type { Score } from '../../song/schema';
import { choicesOf } from '../../song/section';
import { nameApart } from '../../song/version-words';
import { placedSections } from '../../song/versions';
import {
  asWritten,
  deliverChords,
  deliverLines,
  deliverOneTrack,
  deliverSection,
  deliverSong,
  trackNames,
  type Delivery,
} from './deliver';
import type { Resolution } from '../midi/at-resolution';
import { withNamesApart } from './file-names';
import { fingerprintOf, type Fingerprint } from './fingerprint';

/** A file of a song, and what it holds in the writer's words. */
export interface HandedFile {
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
}

export interface HandOverWish {
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
}

/** The chosen takes of a song, and the chords that they were made for: all that its files are made of. */
export function chosenMusic(score: Score, takes: Takes): Music {
  const chosen = score.sections.flatMap(choicesOf);
  const over = chosen.map((id) => partTake(takes, id)?.over?.harmony ?? null);
  const needed = [...chosen, ...over].flatMap((id) => partTake(takes, id) ?? harmonyTake(takes, id) ?? []);
  return { score, takes: Object.fromEntries(needed.map((take) => [take.id, take])), heard: NOTHING_HEARD };
}

/** The files of a song in the order in which they are listed: the song, its lines, its chords, its sections. */
export function handOver(chosen: Music, { human, ...options }: HandOverWish): HandOver {
  const music = human ? chosen : { ...chosen, score: asWritten(chosen.score) };
  const song = deliverSong(music, options);
  const oneTrack = deliverOneTrack(music, options);
  const names = trackNames(music, options);
  const chords = deliverChords(music, options);
  const found = [
    { what: 'The song, a track for each part', delivery: song },
    ...(oneTrack.ok ? [{ what: 'The song in one track', delivery: oneTrack.delivery }] : []),
    ...deliverLines(music, options).map((delivery, index) => ({ what: `${names[index]} alone`, delivery })),
    ...(chords ? [{ what: 'The chords, as voiced and struck', delivery: chords }] : []),
    ...placedSections(music.score).flatMap((section) => {
      const delivery = deliverSection(music, section.id, options);
      return delivery ? [{ what: `${nameApart(music, section)}, all parts`, delivery }] : [];
    }),
  ];
  const named = withNamesApart(found.map(({ delivery }) => delivery));
  const remarks = oneTrack.ok ? song.remarks : [...song.remarks, oneTrack.reason];
  return {
    remarks,
    files: found.map(({ what, delivery }, index) => ({
      what,
      delivery: named[index] ?? delivery,
      print: fingerprintOf(delivery.bytes),
      remarks: delivery.remarks.filter((remark) => !remarks.includes(remark)),
    })),
  };
}
