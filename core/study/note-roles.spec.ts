import { typeChords } from '../song/chord-typing';
import { METRES } from '../theory/metre';
import { noteRoles, sayRoles } from './note-roles';

const metre = METRES[2]!;
const chords = typeChords([], 0, 'C | G', { key: { tonic: 0, scale: 'major' }, metre, length: 3840 });
const line = (...pairs: readonly (readonly [beat: number, pitch: number])[]) =>
  pairs.map(([beat, pitch]) => ({ start: beat * 480, duration: 240, pitch, velocity: 80 }));

describe('the roles of notes', () => {
  it.each([
    ['passing', line([0, 60], [0.5, 62], [1, 64]), 1],
    ['neighbour', line([0, 64], [0.5, 65], [1, 64]), 1],
    ['suspension', line([3, 60], [4, 60], [4.5, 59]), 1],
    ['suspension', line([3, 60], [3.5, 60], [4, 60], [4.5, 59]), 2],
    ['appoggiatura', line([4, 60], [5, 60], [5.5, 59]), 1],
    ['anticipation', line([3, 60], [3.5, 62], [4, 62]), 1],
    ['appoggiatura', line([0, 60], [1, 65], [1.5, 64]), 1],
    ['escape', line([0, 64], [0.5, 65], [1, 72]), 1],
    ['colour', line([0, 60], [1, 69], [2, 64]), 1],
    ['colour', line([0, 60], [0.5, 62], [1, 67]), 1],
    ['free', line([0, 60], [0.5, 65], [1, 60]), 1],
    ['chord note', line([0, 60], [0.5, 67], [1, 64]), 1],
  ] as const)('%s', (role, notes, at) => {
    expect(noteRoles(notes, chords, metre)[at]).toBe(role);
  });

  it('are counted in words', () => {
    expect(sayRoles(['chord note', 'passing', 'chord note', 'neighbour', 'neighbour'])).toBe(
      '2 chord notes, 2 neighbours, 1 passing',
    );
  });
});
