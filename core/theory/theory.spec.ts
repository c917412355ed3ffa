import * as fc from 'fast-check';
import { Scale as TonalScale } from 'tonal';
import { chordSymbol, makeChord, transposeChord } from './chord';
import { harmonicFunction, romanNumeral } from './harmony-role';
import { keyMask, keyNotes, keySignature, spellIn, tonicsFor } from './key';
import {
  barTicks,
  beatsOf,
  gridOf,
  METRES,
  metreName,
  metreText,
  metricalWeight,
  readMetre,
  WEIGHT,
  type Metre,
} from './metre';
import {
  degreeLabel,
  intervalOf,
  maskOf,
  octaveOf,
  pitchClassOf,
  pitchName,
  printedName,
  readName,
  typedName,
} from './pitch';
import { modesOf, SCALES, scaleOf } from './scale';

const metreOf = (name: string): Metre => METRES.find((metre) => metreName(metre) === name)!;
const fifths = fc.integer({ min: -15, max: 19 });

describe('pitch', () => {
  it('reads back every name that it writes', () => {
    fc.assert(
      fc.property(fifths, (note) => {
        expect(readName(typedName(note))).toBe(note);
        expect(readName(printedName(note))).toBe(note);
      }),
    );
  });

  it('names degrees as the inverse of measuring them', () => {
    for (const label of ['1', 'b2', '2', '#2', 'b3', '3', '4', '#4', 'b5', '5', '#5', 'b6', '6', 'bb7', 'b7', '7'])
      expect(degreeLabel(intervalOf(label))).toBe(label);
    expect(() => intervalOf('x')).toThrow(RangeError);
  });

  it('writes octaves by the letter, so that C flat lies above B', () => {
    expect(pitchName(60, 0)).toBe('C4');
    expect(pitchName(59, -7)).toBe('C♭4');
    expect(pitchName(60, 12)).toBe('B♯3');
    expect(octaveOf(69, 3)).toBe(4);
  });
});

describe('scales', () => {
  it('knows at least 48 with different names', () => {
    expect(SCALES.length).toBeGreaterThanOrEqual(48);
    expect(new Set(SCALES.map(({ id }) => id)).size).toBe(SCALES.length);
  });

  it('rises from the tonic without repeating a note', () => {
    for (const scale of SCALES) {
      expect([...scale.semitones].sort((a, b) => a - b)).toEqual(scale.semitones);
      expect(new Set(scale.semitones).size).toBe(scale.degrees.length);
    }
  });

  it('finds the seven modes of the major scale', () => {
    expect(modesOf(scaleOf('major')).map(({ scale }) => scale?.name)).toEqual([
      'Major',
      'Dorian',
      'Phrygian',
      'Lydian',
      'Mixolydian',
      'Minor',
      'Locrian',
    ]);
    expect(modesOf(scaleOf('harmonic-minor')).every(({ scale }) => scale !== null)).toBe(true);
    expect(modesOf(scaleOf('melodic-minor')).map(({ scale }) => scale?.name)).toContain('Lydian dominant');
  });

  it('agrees with a second library', () => {
    for (const name of [
      'major',
      'dorian',
      'harmonic minor',
      'melodic minor',
      'lydian dominant',
      'minor blues',
      'whole tone',
      'hungarian minor',
    ]) {
      const own = scaleOf({ 'minor blues': 'blues' }[name] ?? name.replaceAll(' ', '-'));
      expect(maskOf(TonalScale.get(`C ${name}`).notes.map((note) => pitchClassOf(readName(note)!)))).toBe(own.mask);
    }
  });
});

describe('keys', () => {
  it('spells tonics with the fewest accidentals of their scale', () => {
    expect(tonicsFor('major').map(printedName)).toEqual([
      'C',
      'D♭',
      'D',
      'E♭',
      'E',
      'F',
      expect.stringMatching(/[FG]/),
      'G',
      'A♭',
      'A',
      'B♭',
      'B',
    ]);
    expect(tonicsFor('minor').map(printedName)).toEqual([
      'C',
      'C♯',
      'D',
      expect.stringMatching(/[DE]/),
      'E',
      'F',
      'F♯',
      'G',
      'G♯',
      'A',
      'B♭',
      'B',
    ]);
  });

  it('spells what a trained musician would write', () => {
    expect(keyNotes({ tonic: -3, scale: 'minor' }).map(printedName)).toEqual(['E♭', 'F', 'G♭', 'A♭', 'B♭', 'C♭', 'D♭']);
    expect(keyNotes({ tonic: 5, scale: 'major' }).map(printedName)).toContain('A♯');
    expect(keyNotes({ tonic: 8, scale: 'harmonic-minor' }).map(printedName)).toContain('F𝄪');
    expect(printedName(spellIn({ tonic: -3, scale: 'major' }, 6))).toBe('G♭');
    expect(printedName(spellIn({ tonic: 3, scale: 'major' }, 3))).toBe('D♯');
  });

  it('keeps every note it spells', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...SCALES),
        fc.integer({ min: 0, max: 11 }),
        fc.integer({ min: 0, max: 11 }),
        (scale, tonic, pitchClass) => {
          const key = { tonic: tonicsFor(scale.id)[tonic]!, scale: scale.id };
          expect(pitchClassOf(spellIn(key, pitchClass))).toBe(pitchClass);
          expect(maskOf(keyNotes(key).map(pitchClassOf))).toBe(keyMask(key));
        },
      ),
    );
  });

  it('writes the signature of the mode', () => {
    expect(keySignature({ tonic: -3, scale: 'mixolydian' })).toEqual({ accidentals: -4, minor: false });
    expect(keySignature({ tonic: 2, scale: 'dorian' })).toEqual({ accidentals: 0, minor: true });
    expect(keySignature({ tonic: 3, scale: 'major' })).toEqual({ accidentals: 3, minor: false });
    expect(keySignature({ tonic: 0, scale: 'harmonic-minor' })).toEqual({ accidentals: -3, minor: true });
  });
});

describe('metre', () => {
  it('is read back from every way in which it is written', () => {
    const groups = fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(groups, fc.constantFrom(2 as const, 4 as const, 8 as const), (list, unit) => {
        const beats = list.reduce((total, group) => total + group, 0);
        const metre = { beats, unit, groups: list };
        const short = unit === 8 && list.includes(1);
        if (beats > 16 || 4 * beats < unit || short) expect(readMetre(metreText(metre))).toBeNull();
        else {
          expect(readMetre(metreText(metre))).toEqual(metre);
          expect(readMetre(`${beats} / ${unit}  ${list.join(' + ')}`)).toEqual(metre);
          if (list.length > 1) expect(readMetre(`${list.join('+')}/${unit}`)).toEqual(metre);
        }
      }),
    );
    for (const metre of METRES)
      expect([metreText(metre), readMetre(metreName(metre))]).toEqual([metreName(metre), metre]);
    expect(readMetre('11/8')!.groups).toEqual([2, 2, 2, 2, 3]);
    expect(readMetre('15/8')!.groups).toEqual([3, 3, 3, 3, 3]);
    for (const text of ['', '7', '7/8 3+2', '0/4', '7/9', '17/8', '3+0/4', '1/8', '7/8 x', '5/8 5', '7/8 1+2+4'])
      expect(readMetre(text)).toBeNull();
  });

  it.each([
    ['4/4', 'down back strong back'],
    ['3/4', 'down weak back'],
    ['2/4', 'down back'],
    ['6/8', 'down back'],
    ['12/8', 'down back strong back'],
    ['5/4', 'down weak back strong back'],
    ['7/8', 'down weak back'],
    ['9/8', 'down weak back'],
  ])('knows what the beats of %s do', (name, roles) => {
    expect(
      beatsOf(metreOf(name))
        .map(({ role }) => role)
        .join(' '),
    ).toBe(roles);
  });

  it('fills the bar with its beats and weighs the bar line most', () => {
    for (const metre of METRES) {
      expect(beatsOf(metre).reduce((total, { length }) => total + length, 0)).toBe(barTicks(metre));
      for (const at of gridOf(metre, 4)) {
        expect(metricalWeight(metre, at)).toBeLessThanOrEqual(WEIGHT.bar);
        expect(metricalWeight(metre, at + barTicks(metre))).toBe(metricalWeight(metre, at));
      }
      expect(metricalWeight(metre, 0)).toBe(WEIGHT.bar);
    }
  });

  it('weighs 4/4 and 6/8 as they are felt', () => {
    expect([0, 960, 480, 240, 120, 60].map((at) => metricalWeight(metreOf('4/4'), at))).toEqual([5, 4, 3, 2, 1, 0]);
    expect([0, 720, 240, 120].map((at) => metricalWeight(metreOf('6/8'), at))).toEqual([5, 3, 2, 1]);
  });
});

describe('harmony', () => {
  const major = { tonic: 0, scale: 'major' };
  it('names degrees and functions', () => {
    const chord = (root: number, tones: string) => makeChord(root, tones.split(' '));
    expect(romanNumeral(chord(2, '1 b3 5 b7'), major)).toBe('ii7');
    expect(romanNumeral(chord(-2, '1 3 5'), major)).toBe('♭VII');
    expect(romanNumeral(chord(5, '1 b3 b5'), major)).toBe('vii°');
    expect(harmonicFunction(chord(1, '1 3 5 b7'), major)).toBe('dominant');
    expect(harmonicFunction(chord(2, '1 3 5 b7'), major)).toBe('applied');
    expect(harmonicFunction(chord(-4, '1 3 5'), major)).toBe('borrowed');
    expect(harmonicFunction(chord(3, '1 b3 5'), major)).toBe('tonic');
    expect(harmonicFunction(chord(-1, '1 3 5'), major)).toBe('subdominant');
  });

  it('transposing there and back changes nothing', () => {
    fc.assert(
      fc.property(fifths, fc.integer({ min: -7, max: 7 }), (root, by) => {
        const chord = makeChord(root, ['1', '3', '5'], root + 4);
        expect(transposeChord(transposeChord(chord, by), -by)).toEqual(chord);
        expect(chordSymbol(transposeChord(chord, 0))).toBe(chordSymbol(chord));
      }),
    );
  });
});
