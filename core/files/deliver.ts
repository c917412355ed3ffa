import { chordsIn, NOTHING_HEARD, layOut, songTicks, type HeardTakes, type Takes } from '../song/resolve';
import { groundOf } from '../song/ground';
import type { ChordSpan, Ground, Note, Part, PartTake, Score, Section } from '../song/schema';
import { channelsOf, levelController, panController } from '../sounding/channels';
import { instrumentOf } from '../sounding/instruments';
import { groundSpans } from '../sounding/tempo';
import { grooved, played, timeline, withoutOverlaps, type SoundingNote } from '../sounding/timeline';
import { keySignature } from '../theory/key';
import { barTicks } from '../theory/metre';
import { printedName } from '../theory/pitch';
import { scaleOf } from '../theory/scale';
import { TICKS_PER_QUARTER, type Ticks } from '../theory/units';
import { fileNameOf } from './file-names';
import { writeMidi, type MidiEvent, type MidiTrack } from './midi-write';

/** A file ready to be handed over. */
export interface Delivery {
  readonly name: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly notes: number;
}

/**
 * What a ground tells other programs. The scale's own name goes along as text, since a key signature knows only two
 * modes.
 */
const groundEvents = (at: Ticks, { tonic, scale, tempo, metre }: Ground): MidiEvent[] => [
  { at, kind: 'text', text: `Key: ${printedName(tonic)} ${scaleOf(scale).name}` },
  { at, kind: 'metre', beats: metre.beats, unit: metre.unit },
  { at, kind: 'key', ...keySignature({ tonic, scale }) },
  { at, kind: 'tempo', bpm: tempo },
];

/** Tempo, metre and key wherever they change, and markers. */
function conductor(score: Score, title: string, end: Ticks, markers: boolean, first?: Ground): MidiTrack {
  const spans = first ? [{ start: 0, ground: first }] : groundSpans(score);
  const events: MidiEvent[] = [
    { at: 0, kind: 'name', text: title },
    ...spans.flatMap(({ start, ground }, index) =>
      ground === spans[index - 1]?.ground ? [] : groundEvents(start, ground),
    ),
  ];
  if (spans.length === 0) events.push(...groundEvents(0, score.ground));
  if (markers)
    for (const { start, section } of layOut(score)) events.push({ at: start, kind: 'marker', text: section.name });
  return { events, end };
}

function partTrack(part: Part, channel: number, notes: readonly SoundingNote[], end: Ticks): MidiTrack {
  const events: MidiEvent[] = [
    { at: 0, kind: 'name', text: part.name },
    { at: 0, kind: 'program', channel, program: instrumentOf(part.instrument).program },
    { at: 0, kind: 'controller', channel, controller: 7, value: levelController(part.level) },
    { at: 0, kind: 'controller', channel, controller: 10, value: panController(part.pan) },
  ];
  for (const { start, end: stop, pitch, velocity } of notes) {
    events.push(
      { at: start, kind: 'on', channel, pitch, velocity },
      { at: stop, kind: 'off', channel, pitch, velocity: 0 },
    );
  }
  return { events, end: notes.reduce((last, note) => Math.max(last, note.end), end) };
}

/** The chosen takes of the whole running order, as they sound. */
function soundingParts(score: Score, takes: Takes): ReadonlyMap<string, readonly SoundingNote[]> {
  const { notes } = timeline(score, takes, NOTHING_HEARD, { from: 0, to: songTicks(score) });
  return new Map(score.parts.map((part) => [part.id, withoutOverlaps(notes.filter((note) => note.part === part.id))]));
}

/** Muted parts are left out of the song's file, as they are left out of what is heard. */
const audible = (score: Score): readonly Part[] => score.parts.filter(({ muted }) => !muted);

/**
 * The whole song as one file.
 *
 * @param type  1: a track for each part; 0: everything in one track
 */
export function deliverSong(score: Score, takes: Takes, type: 0 | 1 = 1): Delivery {
  const end = songTicks(score);
  const channels = channelsOf(score, true);
  const sounding = soundingParts(score, takes);
  const tracks = audible(score).map((part) =>
    partTrack(part, channels.get(part.id) ?? 0, sounding.get(part.id) ?? [], end),
  );
  const head = conductor(score, score.title, end, true);
  const notes = audible(score).reduce((total, part) => total + (sounding.get(part.id)?.length ?? 0), 0);
  const bytes = writeMidi({
    type,
    resolution: TICKS_PER_QUARTER,
    tracks: type === 1 ? [head, ...tracks] : [merge(head, tracks)],
  });
  return { name: fileNameOf([score.title], `${type === 0 ? ' (one track)' : ''}.mid`), bytes, notes };
}

/** One track of all; the parts' names would rename the track, so only the song's stays. */
function merge(head: MidiTrack, tracks: readonly MidiTrack[]): MidiTrack {
  const events = tracks.flatMap((track) => track.events.filter(({ kind }) => kind !== 'name'));
  return { events: [...head.events, ...events], end: Math.max(head.end, ...tracks.map(({ end }) => end)) };
}

/** One part over the whole song. */
export function deliverPart(score: Score, takes: Takes, partId: string): Delivery | null {
  const part = score.parts.find(({ id }) => id === partId);
  if (!part) return null;
  const end = songTicks(score);
  const notes = soundingParts(score, takes).get(partId) ?? [];
  const track = partTrack(part, channelsOf(score, true).get(partId) ?? 0, notes, end);
  const number = String(score.parts.indexOf(part) + 1).padStart(2, '0');
  const bytes = writeMidi({
    type: 1,
    resolution: TICKS_PER_QUARTER,
    tracks: [conductor(score, score.title, end, true), track],
  });
  return { name: fileNameOf([`${number} ${part.name}`], '.mid'), bytes, notes: notes.length };
}

/**
 * The chord line over the whole song, as each section voices and strikes it.
 *
 * @param perform  plays a section's chords
 * @returns null where the song has no chords
 */
export function deliverChords(
  score: Score,
  takes: Takes,
  perform: (chords: readonly ChordSpan[], section: Section) => readonly Note[],
): Delivery | null {
  const end = songTicks(score);
  const notes = layOut(score).flatMap(({ section, start, length }) => {
    const chords = perform(chordsIn(section, takes, NOTHING_HEARD), section);
    return grooved(chords, groundOf(score, section)).map((note): SoundingNote => {
      const from = start + note.start;
      return {
        part: 'chords',
        start: from,
        end: Math.max(from + 1, Math.min(start + length, from + note.duration)),
        pitch: note.pitch,
        velocity: note.velocity,
      };
    });
  });
  if (notes.length === 0) return null;
  const sounding = withoutOverlaps(notes.sort((a, b) => a.start - b.start || a.pitch - b.pitch));
  const events: MidiEvent[] = [
    { at: 0, kind: 'name', text: 'Chords' },
    { at: 0, kind: 'program', channel: 0, program: 0 },
  ];
  for (const { start, end: stop, pitch, velocity } of sounding)
    events.push(
      { at: start, kind: 'on', channel: 0, pitch, velocity },
      { at: stop, kind: 'off', channel: 0, pitch, velocity: 0 },
    );
  const bytes = writeMidi({
    type: 1,
    resolution: TICKS_PER_QUARTER,
    tracks: [conductor(score, score.title, end, true), { events, end }],
  });
  return { name: fileNameOf([score.title, 'Chords'], '.mid'), bytes, notes: sounding.length };
}

/** One section with all its parts, heard takes included where they are given. */
export function deliverSection(
  score: Score,
  takes: Takes,
  sectionId: string,
  heard: HeardTakes = NOTHING_HEARD,
): Delivery | null {
  const section = score.sections.find(({ id }) => id === sectionId);
  if (!section) return null;
  const alone: Score = { ...score, order: [{ id: 'alone', section: sectionId }] };
  const end = songTicks(alone);
  const channels = channelsOf(score, true);
  const { notes } = timeline(alone, takes, heard, { from: 0, to: end });
  const tracks = audible(score).map((part) =>
    partTrack(part, channels.get(part.id) ?? 0, withoutOverlaps(notes.filter((note) => note.part === part.id)), end),
  );
  const bytes = writeMidi({
    type: 1,
    resolution: TICKS_PER_QUARTER,
    tracks: [conductor(alone, `${score.title} – ${section.name}`, end, true), ...tracks],
  });
  return { name: fileNameOf([score.title, section.name], '.mid'), bytes, notes: notes.length };
}

/** What starts earlier than this before the bar line is a pick-up and no early hand, in ticks. */
const HANDS = 60;

/** One take on its own, for dragging out of its picture. */
export function deliverTake(score: Score, take: PartTake): Delivery | null {
  const part = score.parts.find(({ id }) => id === take.part);
  const section = score.sections.find(({ id }) => id === take.section);
  if (!part) return null;
  const ground = section ? groundOf(score, section) : score.ground;
  const sounding = played(take.notes, part, ground, score);
  // A file begins at 0: a pick-up needs a bar of its own before the first.
  const lead = (sounding[0]?.start ?? 0) < -HANDS ? barTicks(ground.metre) : 0;
  const notes = sounding.map((note): SoundingNote => {
    const start = Math.max(0, note.start + lead);
    return {
      part: part.id,
      start,
      end: Math.max(start + 1, note.start + lead + note.duration),
      pitch: note.pitch,
      velocity: note.velocity,
    };
  });
  const pieces = [part.name, ...(section ? [section.name] : [])];
  const title = pieces.join(' - ');
  const track = partTrack(part, channelsOf(score, true).get(part.id) ?? 0, withoutOverlaps(notes), take.length + lead);
  const bytes = writeMidi({
    type: 1,
    resolution: TICKS_PER_QUARTER,
    tracks: [conductor(score, title, take.length + lead, false, ground), track],
  });
  return { name: fileNameOf([score.title, ...pieces], '.mid'), bytes, notes: notes.length };
}

/** Everything a song hands over, in the order in which it is listed: the song, then each part that sounds. */
export function deliverAll(score: Score, takes: Takes): Delivery[] {
  const parts = audible(score).flatMap((part) => deliverPart(score, takes, part.id) ?? []);
  return [deliverSong(score, takes, 1), ...parts];
}

/** The same score as written: without what players' hands and the style's feel add when it sounds. */
export const asWritten = (score: Score): Score => ({
  ...score,
  ground: { ...score.ground, feel: 0 },
  parts: score.parts.map((part) => ({ ...part, brief: { ...part.brief, humanise: 0 } })),
});
