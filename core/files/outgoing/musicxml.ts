import { create, type XMLElement } from 'xmlbuilder';
import type { LeadSheet, SheetBar, SheetEvent } from '../../notation/lead-sheet';
import type { Value } from '../../notation/values';
import { qualitySymbol, type Chord } from '../../theory/chord';
import { keySignature, type Key } from '../../theory/key';
import type { Metre } from '../../theory/metre';
import { octaveOf, typedName, type Fifths } from '../../theory/pitch';
import { scaleOf } from '../../theory/scale';
import { TICKS_PER_QUARTER, type MidiNote, type Ticks } from '../../theory/units';

/** A lead sheet as MusicXML 3.1 (W3C), readable by every program that engraves. */

type Node = XMLElement;

const VERSION = '3.1';
const DOCTYPE = {
  pubID: `-//Recordare//DTD MusicXML ${VERSION} Partwise//EN`,
  sysID: 'http://www.musicxml.org/dtds/partwise.dtd',
};

/** The letter of a spelled note and how far it is raised. */
function stepOf(spelled: Fifths): { readonly step: string; readonly alter: number } {
  const [step = 'C', ...signs] = typedName(spelled);
  return { step, alter: signs.reduce((sum, sign) => sum + (sign === '#' ? 1 : -1), 0) };
}

/** Kinds of chord that the standard names, by their degrees. */
const KINDS: readonly (readonly [tones: string, kind: string])[] = [
  ['1 3 5', 'major'],
  ['1 b3 5', 'minor'],
  ['1 3 #5', 'augmented'],
  ['1 b3 b5', 'diminished'],
  ['1 3 5 b7', 'dominant'],
  ['1 3 5 7', 'major-seventh'],
  ['1 b3 5 b7', 'minor-seventh'],
  ['1 b3 b5 bb7', 'diminished-seventh'],
  ['1 3 #5 b7', 'augmented-seventh'],
  ['1 b3 b5 b7', 'half-diminished'],
  ['1 b3 5 7', 'major-minor'],
  ['1 3 5 6', 'major-sixth'],
  ['1 b3 5 6', 'minor-sixth'],
  ['1 3 5 b7 9', 'dominant-ninth'],
  ['1 3 5 7 9', 'major-ninth'],
  ['1 b3 5 b7 9', 'minor-ninth'],
  ['1 3 5 b7 9 11', 'dominant-11th'],
  ['1 b3 5 b7 9 11', 'minor-11th'],
  ['1 3 5 b7 9 13', 'dominant-13th'],
  ['1 3 5 7 9 13', 'major-13th'],
  ['1 2 5', 'suspended-second'],
  ['1 4 5', 'suspended-fourth'],
  ['1 5', 'power'],
];

interface Degree {
  readonly value: number;
  readonly alter: number;
  readonly type: 'add' | 'alter' | 'subtract';
}

const numberIn = (tone: string): number => Number(tone.replaceAll(/[b#]/g, ''));
const alterIn = (tone: string): number =>
  [...tone].reduce((sum, sign) => sum + (sign === '#' ? 1 : sign === 'b' ? -1 : 0), 0);

/** The kind that a chord is nearest to, and the degrees by which it differs. */
function kindOf({ tones }: Chord): { readonly kind: string; readonly degrees: readonly Degree[] } {
  const found = KINDS.map(([text, kind]) => {
    const own = text.split(' ');
    const missing = own.filter((tone) => !tones.includes(tone));
    const added = tones.filter((tone) => !own.includes(tone));
    return { kind, missing, added };
  }).reduce((best, other) =>
    other.missing.length + other.added.length < best.missing.length + best.added.length ? other : best,
  );
  const altered = found.added.filter((tone) => found.missing.some((gone) => numberIn(gone) === numberIn(tone)));
  const gone = found.missing.filter((tone) => !altered.some((other) => numberIn(other) === numberIn(tone)));
  return {
    kind: found.kind,
    degrees: [
      ...found.added.map((tone): Degree => ({
        value: numberIn(tone),
        alter: alterIn(tone),
        type: altered.includes(tone) ? 'alter' : 'add',
      })),
      ...gone.map((tone): Degree => ({ value: numberIn(tone), alter: 0, type: 'subtract' })),
    ],
  };
}

function writeHarmony(measure: Node, chord: Chord | null, offset: Ticks): void {
  const harmony = measure.ele('harmony');
  const root = harmony.ele('root');
  if (!chord) {
    root.ele('root-step', { text: '' }).txt('C');
    harmony.ele('kind', { text: 'N.C.' }).txt('none');
  } else {
    writeStep(root, 'root', chord.root);
    const { kind, degrees } = kindOf(chord);
    harmony.ele('kind', { text: qualitySymbol(chord.tones) }).txt(kind);
    if (chord.bass !== null) writeStep(harmony.ele('bass'), 'bass', chord.bass);
    for (const { value, alter, type } of degrees) {
      const degree = harmony.ele('degree', { 'print-object': 'no' });
      degree.ele('degree-value').txt(String(value));
      degree.ele('degree-alter').txt(String(alter));
      degree.ele('degree-type').txt(type);
    }
  }
  if (offset !== 0) harmony.ele('offset').txt(String(offset));
}

function writeStep(parent: Node, name: 'root' | 'bass', spelled: Fifths): void {
  const { step, alter } = stepOf(spelled);
  parent.ele(`${name}-step`).txt(step);
  if (alter !== 0) parent.ele(`${name}-alter`).txt(String(alter));
}

/** The standard has none below: what is lower is written in it. */
const LOWEST_OCTAVE = 0;

function writePitch(note: Node, pitch: MidiNote, spelled: Fifths): void {
  const { step, alter } = stepOf(spelled);
  const element = note.ele('pitch');
  element.ele('step').txt(step);
  if (alter !== 0) element.ele('alter').txt(String(alter));
  element.ele('octave').txt(String(Math.max(LOWEST_OCTAVE, octaveOf(pitch, spelled))));
}

/** Three in the time of two, where a value is one of a triplet. */
function writeValue(note: Node, { name, dots, triplet }: Value): void {
  note.ele('type').txt(name);
  for (let dot = 0; dot < dots; dot++) note.ele('dot');
  if (!triplet) return;
  const modification = note.ele('time-modification');
  modification.ele('actual-notes').txt('3');
  modification.ele('normal-notes').txt('2');
}

function writeEvent(measure: Node, event: SheetEvent, fills: boolean): void {
  const { duration, value, pitches, spelled, tied, goesOn, tuplet } = event;
  if (pitches.length === 0) {
    const note = measure.ele('note');
    const rest = note.ele('rest');
    if (fills) rest.att('measure', 'yes');
    note.ele('duration').txt(String(duration));
    note.ele('voice').txt('1');
    writeValue(note, value);
    if (tuplet) note.ele('notations').ele('tuplet', { type: tuplet });
    return;
  }
  pitches.forEach((pitch, index) => {
    const note = measure.ele('note');
    if (index > 0) note.ele('chord');
    writePitch(note, pitch, spelled[index] ?? 0);
    note.ele('duration').txt(String(duration));
    if (tied) note.ele('tie', { type: 'stop' });
    if (goesOn) note.ele('tie', { type: 'start' });
    note.ele('voice').txt('1');
    writeValue(note, value);
    if (!tied && !goesOn && (tuplet === null || index > 0)) return;
    const notations = note.ele('notations');
    if (tied) notations.ele('tied', { type: 'stop' });
    if (goesOn) notations.ele('tied', { type: 'start' });
    if (tuplet && index === 0) notations.ele('tuplet', { type: tuplet });
  });
}

/** Modes that the standard names; others by whether their third is minor. */
const MODES: ReadonlySet<string> = new Set(['major', 'minor', 'dorian', 'phrygian', 'lydian', 'mixolydian', 'locrian']);

function writeAttributes(measure: Node, { metre, key }: Pick<SheetBar, 'metre' | 'key'>, clef: Clef | null): void {
  if (!metre && !key && !clef) return;
  const attributes = measure.ele('attributes');
  if (clef) attributes.ele('divisions').txt(String(TICKS_PER_QUARTER));
  if (key) writeKey(attributes, key);
  if (metre) writeTime(attributes, metre);
  if (!clef) return;
  const element = attributes.ele('clef');
  element.ele('sign').txt(clef.sign);
  element.ele('line').txt(String(clef.line));
}

function writeKey(attributes: Node, key: Key): void {
  const { accidentals, minor } = keySignature(key);
  const element = attributes.ele('key');
  element.ele('fifths').txt(String(accidentals));
  const { id } = scaleOf(key.scale);
  element.ele('mode').txt(MODES.has(id) ? id : minor ? 'minor' : 'major');
}

function writeTime(attributes: Node, { beats, unit }: Metre): void {
  const time = attributes.ele('time');
  time.ele('beats').txt(String(beats));
  time.ele('beat-type').txt(String(unit));
}

interface Clef {
  readonly sign: 'G' | 'F';
  readonly line: number;
}

/** How clefs are named by their sign and the line that it stands on. */
const CLEFS: Readonly<Record<LeadSheet['clef'], Clef>> = {
  treble: { sign: 'G', line: 2 },
  bass: { sign: 'F', line: 4 },
};

function writeDirections(measure: Node, { heading, tempo }: SheetBar): void {
  if (heading !== null) {
    const direction = measure.ele('direction', { placement: 'above' });
    direction.ele('direction-type').ele('rehearsal').txt(heading);
  }
  if (tempo === null) return;
  const direction = measure.ele('direction', { placement: 'above' });
  const metronome = direction.ele('direction-type').ele('metronome');
  metronome.ele('beat-unit').txt('quarter');
  metronome.ele('per-minute').txt(String(Math.round(tempo * 100) / 100));
  direction.ele('sound', { tempo: String(Math.round(tempo * 100) / 100) });
}

function writeLeftLine(measure: Node, { opens, ending, bracket }: SheetBar): void {
  const begins = bracket === 'start' || bracket === 'both';
  if (!opens && !begins) return;
  const line = measure.ele('barline', { location: 'left' });
  if (opens) line.ele('bar-style').txt('heavy-light');
  if (begins) line.ele('ending', { number: String(ending), type: 'start' });
  if (opens) line.ele('repeat', { direction: 'forward' });
}

function writeRightLine(measure: Node, { plays, ending, bracket }: SheetBar, last: boolean): void {
  const ends = bracket === 'stop' || bracket === 'both';
  if (plays === 0 && !ends && !last) return;
  const line = measure.ele('barline', { location: 'right' });
  if (plays > 0 || last) line.ele('bar-style').txt('light-heavy');
  // A last ending is left open where music follows.
  if (ends) line.ele('ending', { number: String(ending), type: ending === 1 || last ? 'stop' : 'discontinue' });
  if (plays > 0) line.ele('repeat', { direction: 'backward', ...(plays > 2 ? { times: String(plays) } : {}) });
}

/** Chords and notes of a bar in the order of their moments; a chord within a note stands before it, offset. */
function writeContent(measure: Node, { events, chords }: SheetBar): void {
  const fills = events.length === 1;
  let written = 0;
  events.forEach((event) => {
    const until = event.start + event.duration;
    for (; written < chords.length; written++) {
      const chord = chords[written];
      if (!chord || chord.at >= until) break;
      writeHarmony(measure, chord.chord, Math.max(0, chord.at - event.start));
    }
    writeEvent(measure, event, fills);
  });
}

/**
 * A lead sheet as a MusicXML document: melody, chord symbols, repeats, endings, keys, metres, tempos, and sections as
 * rehearsal marks. One division is a tick.
 */
export function musicXml(sheet: LeadSheet): string {
  // What XML knows no sign for is left out of names.
  const score = create('score-partwise', { version: '1.0', encoding: 'UTF-8' }, DOCTYPE, {
    invalidCharReplacement: '',
  }).att('version', VERSION);
  score.ele('work').ele('work-title').txt(sheet.title);
  score.ele('identification').ele('encoding').ele('software').txt('Fendro');
  const part = score.ele('part-list').ele('score-part', { id: 'P1' });
  part.ele('part-name').txt(sheet.part);
  const line = score.ele('part', { id: 'P1' });
  const clef = CLEFS[sheet.clef];
  let number = 1;
  sheet.bars.forEach((bar, index) => {
    const measure = line.ele('measure', bar.pickUp ? { number: '0', implicit: 'yes' } : { number: String(number++) });
    writeLeftLine(measure, bar);
    writeAttributes(measure, bar, index === 0 ? clef : null);
    writeDirections(measure, bar);
    writeContent(measure, bar);
    writeRightLine(measure, bar, index === sheet.bars.length - 1);
  });
  return score.end({ pretty: true });
}
