import * as fc from 'fast-check';
import { INSTRUMENTS } from '../sounding/instruments';
import { roleOf } from '../song/roles';
import { styleOf } from '../styles/styles';
import { chordMask, type Chord } from '../theory/chord';
import { keyMask, type Key } from '../theory/key';
import { inMask } from '../theory/pitch';
import { readChord } from '../theory/read-chord';
import { averageMotion } from '../voicing/voicing';
import { ADDITIONS, chordsOffered, walkable, withAdditions, type Addition } from './chords-offered';
import { handled, RESTING, type HandAction, type Handled, type Hands } from './hands';
import { partPlayer, type LivePlayer } from './player';
import { DRUM_TOUCHES, TOUCHES } from './touches';

const KEY: Key = { tonic: 0, scale: 'major' };
const chord = (text: string): Chord => {
  const read = readChord(text);
  if (!read.ok || !read.chord) throw new Error(text);
  return read.chord;
};
const player = (role: 'comping' | 'bass' | 'strum' | 'melody' | 'drums', instrument = roleOf(role).instrument) => {
  const sound = INSTRUMENTS.find(({ id }) => id === instrument)!;
  return partPlayer({ role, brief: roleOf(role).brief }, sound);
};

/** Plays actions one after the other, for one player. */
function play(
  actions: readonly HandAction[],
  of: LivePlayer,
  key = KEY,
): Handled & { readonly all: readonly Handled[] } {
  const all: Handled[] = [];
  let hands: Hands = RESTING;
  for (const action of actions) {
    const next = handled(hands, action, { player: of, key });
    all.push(next);
    hands = next.hands;
  }
  return { ...all.at(-1)!, all };
}

const hold = (key: string, text: string, sounds = false): HandAction => ({
  does: 'hold',
  key,
  chord: chord(text),
  sounds,
  velocity: 90,
});
const touch = (key: string, index: number): HandAction => ({
  does: 'touch',
  key,
  touch: TOUCHES[index]!,
  velocity: 90,
});
const go = (key: string): HandAction => ({ does: 'let go', key });
const [DAMPED, DOWN, UP, TOGETHER, BASS] = [5, 6, 7, 8, 9] as const;
const pitches = ({ strikes }: Handled): number[] => strikes.map(({ pitch }) => pitch);

describe('chords under the hand', () => {
  it('come in the section’s order, then the key’s, then borrowed ones, and none twice', () => {
    const offered = chordsOffered(['F', 'G7', 'F', 'C'].map(chord), KEY, styleOf('folk'), 15);
    expect(offered.slice(0, 3).map(({ from }) => from)).toEqual(['section', 'section', 'section']);
    expect(offered).toHaveLength(15);
    const kinds = offered.map(({ from }) => from);
    expect(kinds.lastIndexOf('key')).toBeLessThan(kinds.indexOf('borrowed'));
    const names = offered.map((each) => JSON.stringify(each.chord));
    expect(new Set(names).size).toBe(names.length);
  });

  it('take what is added from the key, and nothing that would sound wrong', () => {
    const all = fc.subarray([...ADDITIONS]);
    fc.assert(
      fc.property(fc.constantFrom('C', 'Dm', 'Em', 'F', 'G', 'Am', 'Bdim'), all, (text, additions) => {
        const made = withAdditions(chord(text), new Set<Addition>(additions), KEY);
        expect(chordMask(made) & ~keyMask(KEY)).toBe(0);
      }),
    );
    expect(withAdditions(chord('G'), new Set(['seventh']), KEY).tones).toEqual(['1', '3', '5', 'b7']);
    expect(withAdditions(chord('C'), new Set(['seventh']), KEY).tones).toEqual(['1', '3', '5', '7']);
    expect(withAdditions(chord('Dm'), new Set(['suspension']), KEY).tones).toEqual(['1', '4', '5']);
    expect(withAdditions(chord('Em'), new Set(['ninth']), KEY).tones).toContain('11');
  });

  it('walk over foreign chords without a note that rubs', () => {
    const mask = walkable(chord('Ab'), KEY);
    expect(inMask(mask, 8)).toBe(true);
    expect(inMask(mask, 9)).toBe(false);
    expect(inMask(mask, 7)).toBe(false);
  });
});

describe('hands at play', () => {
  it('hold with the left, strike with the right: down over all strings, up over the high ones, damped short', () => {
    const guitar = player('strum');
    const down = play([hold('a', 'C'), touch('j', DOWN)], guitar);
    expect(pitches(down)).toEqual([...down.hands.pitches]);
    expect(down.strikes.map(({ after }) => after)).toEqual([...down.strikes.map(({ after }) => after)].sort());
    const up = play([hold('a', 'C'), touch('j', DOWN), touch('k', UP)], guitar);
    expect(pitches(up)).toEqual([...up.hands.pitches].reverse().slice(0, 4));
    expect(up.strikes[0]!.velocity).toBeLessThan(down.strikes[0]!.velocity);
    const damped = play([hold('a', 'C'), touch('h', DAMPED)], guitar);
    expect(damped.strikes.every(({ lasts }) => lasts !== null && lasts < 0.1)).toBe(true);
    expect(damped.hands.sounding.size).toBe(0);
  });

  it('let strokes ring as long as either hand holds on', () => {
    const guitar = player('strum');
    const rung = [hold('a', 'C'), touch('j', DOWN), go('j')];
    expect(play(rung, guitar).hands.sounding.size).toBeGreaterThan(2);
    expect(play([...rung, go('a')], guitar).hands.sounding.size).toBe(0);
    expect(play([hold('a', 'C'), go('a'), touch('j', DOWN)], guitar).hands.sounding.size).toBeGreaterThan(2);
    expect(play([hold('a', 'C'), go('a'), touch('j', DOWN), go('j')], guitar).hands.sounding.size).toBe(0);
  });

  it('play a bass line on three keys that follows the chords', () => {
    const bass = player('bass');
    const line = (text: string): number[] =>
      play([hold('a', text), touch('y', 0), touch('u', 1), touch('i', 2)], bass).all.flatMap(pitches);
    for (const [text, classes] of [
      ['C', [0, 4, 7]],
      ['Am', [9, 0, 4]],
      ['F', [5, 9, 0]],
    ] as const) {
      const played = line(text);
      expect(played.map((pitch) => pitch % 12)).toEqual(classes);
      expect(played).toEqual([...played].sort((a, b) => a - b));
      expect(played[0]! - bass.low).toBeLessThan(12);
    }
  });

  it('lead chords smoothly, and turn them on request', () => {
    const keys = player('comping');
    const voiced = ['C', 'Am', 'F', 'G', 'C'].map(
      (_, index, all) =>
        play(
          all.slice(0, index + 1).map((text) => hold('a', text)),
          keys,
        ).hands.pitches,
    );
    expect(averageMotion(voiced)).toBeLessThan(2.6);
    const turned = play([hold('a', 'C'), { does: 'invert', inversion: 1 }], keys).hands.pitches;
    expect(turned[0]! % 12).toBe(4);
  });

  it('let one hand play: chords sound while held, and what is added joins them', () => {
    const keys = player('comping');
    const one = play([hold('a', 'C', true)], keys);
    expect(one.strikes.length).toBeGreaterThan(2);
    const more = play([hold('a', 'C', true), { does: 'add', additions: new Set<Addition>(['seventh']) }], keys);
    expect([...more.hands.sounding.keys()].map((pitch) => pitch % 12)).toContain(11);
    const next = play([hold('a', 'C', true), hold('s', 'F', true), go('a')], keys);
    expect(next.hands.sounding.size).toBe(next.hands.pitches.length);
    expect(play([hold('a', 'C', true), go('a')], keys).hands.sounding.size).toBe(0);
  });

  it('leave the chord under the right hand, and go back to the one that is still held', () => {
    const keys = player('comping');
    expect(play([hold('a', 'C'), go('a')], keys).hands.chosen).toEqual(chord('C'));
    expect(play([hold('a', 'C'), hold('s', 'F'), go('s')], keys).hands.chosen).toEqual(chord('C'));
    const followed = play([{ does: 'follow', chord: chord('G') }, touch('l', TOGETHER)], keys);
    expect(new Set(pitches(followed).map((pitch) => pitch % 12))).toEqual(new Set([7, 11, 2]));
  });

  it('put the bass under the chord', () => {
    const played = play([hold('a', 'F/A'), touch('b', BASS)], player('comping'));
    expect(pitches(played)[0]! % 12).toBe(9);
    expect(pitches(played)[0]!).toBeLessThan(played.hands.pitches[0]!);
  });
});

describe('keys of their own pitch', () => {
  const keys = player('comping');
  const note = (key: string, pitch: number): HandAction => ({ does: 'note', key, pitch, velocity: 70 });

  it('sound what they are, as hard as they are struck, until they come up', () => {
    const down = play([note('a', 60), note('b', 64)], keys);
    expect(down.all.flatMap(pitches)).toEqual([60, 64]);
    expect(down.strikes[0]!.velocity).toBe(70);
    expect(play([note('a', 60), note('b', 64), go('a')], keys).ends).toEqual([60]);
  });

  it('ring on while the pedal is down, and end when it comes up', () => {
    const kept = [{ does: 'pedal', down: true } as const, note('a', 60), go('a'), note('b', 64)];
    expect([...play(kept, keys).hands.sounding.keys()]).toEqual([60, 64]);
    const up = play([...kept, { does: 'pedal', down: false }], keys);
    expect([up.ends, [...up.hands.sounding.keys()]]).toEqual([[60], [64]]);
    expect(play([...kept, go('b'), note('c', 60), { does: 'pedal', down: false }], keys).ends).toEqual([64]);
  });
});

const KEYS = ['q', 'w', 'e', 'j', 'k', 'l'];
const action = fc.oneof(
  fc
    .record({
      key: fc.constantFrom(...KEYS),
      text: fc.constantFrom('C', 'Fm7', 'Gsus4', 'Bb/D', 'C#dim'),
      sounds: fc.boolean(),
    })
    .map(({ key, text, sounds }) => hold(key, text, sounds)),
  fc
    .record({ key: fc.constantFrom(...KEYS), touch: fc.constantFrom(...TOUCHES, ...DRUM_TOUCHES) })
    .map((made): HandAction => ({ does: 'touch', velocity: 90, ...made })),
  fc.constantFrom(...KEYS).map(go),
  fc.subarray([...ADDITIONS]).map((additions): HandAction => ({ does: 'add', additions: new Set(additions) })),
  fc
    .record({ key: fc.constantFrom(...KEYS), pitch: fc.integer({ min: 48, max: 60 }) })
    .map((made): HandAction => ({ does: 'note', velocity: 90, ...made })),
  fc.boolean().map((down): HandAction => ({ does: 'pedal', down })),
  fc.constantFrom(null, 1, 2).map((inversion): HandAction => ({ does: 'invert', inversion })),
  fc.constantFrom('C', 'Am').map((text): HandAction => ({ does: 'follow', chord: chord(text) })),
);

describe('whatever hands do', () => {
  const players = [player('comping'), player('strum'), player('bass'), player('melody'), player('drums')];

  it('every note that is struck ends, none is struck while it sounds, and nothing rings when all is let go', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...players),
        fc.array(action, { maxLength: 60 }),
        fc.constantFrom('rest', 'let go'),
        (of, actions, over) => {
          const last: HandAction[] =
            over === 'rest' ? [{ does: 'rest' }] : [...KEYS.map(go), { does: 'pedal', down: false }];
          const sounding = new Set<number>();
          for (const { ends, strikes } of play([...actions, ...last], of).all) {
            for (const pitch of ends) expect(sounding.delete(pitch)).toBe(true);
            for (const { pitch, lasts } of strikes) {
              expect(sounding.has(pitch)).toBe(false);
              expect(pitch).toBeGreaterThanOrEqual(0);
              expect(pitch).toBeLessThanOrEqual(127);
              if (lasts === null) sounding.add(pitch);
            }
          }
          expect(sounding.size).toBe(0);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('strokes sound notes of the chord only, and lines walk on what does not rub', () => {
    fc.assert(
      fc.property(fc.constantFrom(...players.slice(0, 4)), fc.array(action, { maxLength: 40 }), (of, actions) => {
        const { hands } = play([...actions, { does: 'rest' }, hold('q', 'Fm7')], of);
        for (const [index, each] of TOUCHES.entries()) {
          const struck = handled(hands, touch('j', index), { player: of, key: KEY });
          const mask = each.does === 'walk' ? walkable(hands.chord, KEY) : chordMask(hands.chord!);
          for (const pitch of pitches(struck)) expect(inMask(mask, pitch)).toBe(true);
        }
      }),
      { numRuns: 60 },
    );
  });
});
