import * as fc from 'fast-check';
import { styleOf } from '../styles/styles';
import { readChord } from '../theory/read-chord';
import { chordSymbol, type Chord } from '../theory/chord';
import { METRES } from '../theory/metre';
import { inMask, pitchClassOf } from '../theory/pitch';
import { begun, curvesOf, over, shapedBy, since, type Captured, type PlayedNote } from './capture';
import { chordsOffered, walkable } from './chords-offered';
import { sameControl, sayControl, touchOf } from './device-control';
import { chordOn, fittedTo } from './keys-of-device';
import { readMessage, writeMessage, type MidiMessage } from './midi-message';
import { chordsPlayed, withChordsHeard, type RoundNote } from './rounds';
import { readScript } from './script';

const KEY = { tonic: 0, scale: 'major' };
const chord = (text: string): Chord => {
  const read = readChord(text);
  if (!read.ok || !read.chord) throw new Error(text);
  return read.chord;
};

describe('keys of a device', () => {
  it('give way to the nearest note that does not rub, and stay where none has to', () => {
    const texts = fc.constantFrom('C', 'Dm', 'E', 'Fm7', 'G7', 'Bb');
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 127 }), fc.option(texts), (pitch, text) => {
        const under = text === null ? null : chord(text);
        const fitted = fittedTo(pitch, under, KEY);
        const mask = walkable(under, KEY);
        expect(inMask(mask, fitted)).toBe(true);
        if (inMask(mask, pitch)) expect(fitted).toBe(pitch);
        expect(Math.abs(fitted - pitch)).toBeLessThan(4);
      }),
    );
    expect(fittedTo(61, chord('C'), KEY)).toBe(60);
  });

  it('choose the first chord that is offered on their note, or the nearest to it', () => {
    const offered = chordsOffered(['F', 'G7', 'Am', 'C'].map(chord), KEY, styleOf('folk'), 15);
    const root = (pitch: number): number => pitchClassOf(offered[chordOn(pitch, offered)]!.chord.root);
    expect(chordOn(43, offered)).toBe(1);
    expect(chordOn(45, offered)).toBe(2);
    for (const pitch of [36, 38, 40, 41, 43, 45, 48]) expect(root(pitch)).toBe(pitch % 12);
    const few = offered.slice(0, 2);
    expect(chordOn(42, few)).toBe(0);
    expect(chordOn(60, [])).toBe(-1);
  });
});

describe('a control of a device', () => {
  const seven = fc.integer({ min: 0, max: 127 });
  it('is known again by whatever it says, and said in words', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 15 }), seven, seven, (channel, number, value) => {
        const says: MidiMessage[] = [
          { says: 'note on', channel, pitch: number, velocity: value },
          { says: 'note off', channel, pitch: number },
          { says: 'control', channel, controller: number, value },
        ];
        const [on, off, control] = says.map(touchOf);
        expect(sameControl(on!.control, off!.control)).toBe(true);
        expect(off!.value).toBe(0);
        if (control) expect(sameControl(on!.control, control.control)).toBe(false);
        else expect(number >= 120 || number === 0 || number === 32).toBe(true);
      }),
    );
    expect(sayControl({ says: 'note', channel: 9, number: 36 })).toBe('Key C2, channel 10');
    expect(sayControl({ says: 'control', channel: 0, number: 21 })).toBe('Controller 21, channel 1');
    expect(sayControl({ says: 'program', channel: 0, number: 0 })).toBe('Program 1, channel 1');
    expect(touchOf({ says: 'clock' })).toBeNull();
  });

  it('speaks only in whole messages', () => {
    const bytes = writeMessage({ says: 'control', channel: 2, controller: 21, value: 90 });
    expect(touchOf(readMessage(bytes)!)).toEqual({ control: { says: 'control', channel: 2, number: 21 }, value: 90 });
    expect(readMessage(bytes.slice(0, 2))).toBeNull();
  });
});

describe('wheels', () => {
  const note = (pitch: number, from: number): PlayedNote => ({
    line: 'part-1',
    pitch,
    velocity: 80,
    from,
    to: null,
    moment: null,
    chord: null,
  });

  it('shape the notes of the line that sounds, and those notes keep their curves', () => {
    const line = note(60, 0).line;
    let notes: Captured = begun([], note(60, 0));
    notes = over(notes, 60, 0.5);
    notes = begun(notes, note(62, 1));
    notes = shapedBy(notes, line, { kind: 'bend', at: 1.25, value: 100 });
    notes = shapedBy(notes, line, { kind: 'bend', at: 1.25, value: 120 });
    notes = shapedBy(notes, line, { kind: 'vibrato', at: 1.5, value: 40 });
    notes = over(notes, 62, 2);
    notes = shapedBy(notes, line, { kind: 'bend', at: 2.5, value: 0 });
    const [first, second] = since(notes, 0, 3);
    const ticksAt = (seconds: number): number => Math.round((seconds - 1) * 960);
    expect(curvesOf(first!, ticksAt)).toEqual({});
    expect(curvesOf(second!, ticksAt)).toEqual({ bend: [{ at: 240, value: 120 }], vibrato: [{ at: 480, value: 40 }] });
  });
});

describe('chords that were struck as they are', () => {
  it('are heard, where no hand chose them', () => {
    const struck = (start: number, pitches: readonly number[]): RoundNote[] =>
      pitches.map((pitch) => ({ start, duration: 1800, pitch, velocity: 80, chord: null }));
    const round = [
      ...struck(0, [48, 60, 64, 67]),
      ...struck(1935, [45, 60, 64, 69]),
      ...struck(3830, [41, 60, 65, 69]),
    ];
    const heard = withChordsHeard(round, KEY, METRES[2]!, 3 * 1920);
    const chords = chordsPlayed(heard, [], { from: 0, to: 3 * 1920 }, 3 * 1920);
    expect(chords.map(({ start, chord: each }) => [start, pitchClassOf(each!.root)])).toEqual([
      [0, 0],
      [1920, 9],
      [3840, 5],
    ]);
    const chosen = round.map((each) => ({ ...each, chord: chord('G') }));
    expect(withChordsHeard(chosen, KEY, METRES[2]!, 5760)).toBe(chosen);
  });
});

describe('chords of a keyboard alone', () => {
  it('are heard each, wherever in the bar they fall, between two lines too', () => {
    const fall = { at: fc.integer({ min: 0, max: 3000 }), late: fc.nat(12), held: fc.integer({ min: 200, max: 470 }) };
    fc.assert(
      fc.property(fc.record(fall), ({ at, late, held }) => {
        const struck = (beat: number, pitches: readonly number[]): RoundNote[] =>
          pitches.map((pitch, finger) => ({
            start: at + beat * 480 + finger * late,
            duration: held,
            pitch,
            velocity: 80,
            chord: null,
          }));
        const round = [...struck(0, [53, 57, 60]), ...struck(2, [55, 59, 62]), ...struck(4, [57, 60, 64])];
        const heard = withChordsHeard(round, KEY, METRES[2]!, 4 * 1920);
        const chords = chordsPlayed(heard, [], { from: 0, to: 4 * 1920 }, 4 * 1920);
        expect(chords.flatMap((span) => (span.chord ? [chordSymbol(span.chord)] : []))).toEqual(['F', 'G', 'Am']);
      }),
    );
  });
});

describe('a script of notes', () => {
  it('says which notes are struck on which beat', () => {
    expect(readScript(' C3+E3  - Bb2 B#3 ')).toEqual({
      ok: true,
      beats: 4,
      notes: [
        { pitch: 48, from: 0, to: 1 },
        { pitch: 52, from: 0, to: 1 },
        { pitch: 46, from: 2, to: 3 },
        { pitch: 60, from: 3, to: 4 },
      ],
    });
  });

  it('says what is wrong with it', () => {
    for (const [text, words] of [
      ['', /Nothing to play/],
      ['C3 H4', /“H4” is no note/],
      ['C', /“C” is no note/],
      ['G9+A9', /no note/],
      ['C3 '.repeat(300), /at most/],
    ] as const) {
      const read = readScript(text);
      expect(read.ok ? '' : read.problem).toMatch(words);
    }
  });
});
