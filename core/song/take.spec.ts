import * as fc from 'fast-check';
import { partAsking } from '../compose/asking';
import { attemptsAt } from '../compose/stages';
import { fittedNotes } from '../song/follow-chords';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { readChord } from '../theory/read-chord';
import type { Note, PartTake } from './schema';
import { chordsTake, draftedTake, editedTake, fittedTake, looseTake, voicedTake, voiceTake, withNoteIds } from './take';
import { chosenId } from './section';
import { takeNumbers } from './take-numbers';

const note = (start: number, pitch = 60): Note => ({ start, duration: 100, pitch, velocity: 80 });
const place = { id: 't', section: 's', length: 3840 };
const { score, takes } = scoreWith(1, 0);
const section = score.sections[0]!;
const keys = score.parts.find(({ role }) => role === 'comping')!;
const chosen = takes[chosenId(section, keys.id)!] as PartTake;

describe('the notes of a take', () => {
  it('all have ids of their own, and keep them whatever else comes and goes', () => {
    fc.assert(
      fc.property(fc.array(fc.option(fc.integer({ min: 0, max: 9 })), { maxLength: 20 }), (ids) => {
        const notes = ids.map((id, index) => (id === null ? note(index) : { ...note(index), id }));
        const numbered = withNoteIds(notes);
        expect(new Set(numbered.map(({ id }) => id)).size).toBe(notes.length);
        numbered.forEach((one, index) => {
          const first = ids.indexOf(ids[index]!) === index;
          if (ids[index] !== null && first) expect(one.id).toBe(ids[index]);
          expect(one.start).toBe(index);
        });
        expect(withNoteIds(numbered)).toBe(numbered);
        expect(withNoteIds(notes)).toBe(numbered);
      }),
    );
  });
});

describe('a take', () => {
  it('that is drafted can be made again, and lies over the chords, key, role and register that were asked for', () => {
    const ground = score.ground;
    const asking = partAsking({ ground, bars: 2, kind: 'verse' }, keys, { harmony: 'h' });
    const take = draftedTake(
      place,
      { asking, seed: 3, attempts: attemptsAt(4) },
      { of: 'part', part: keys.id, notes: [note(0)] },
    );
    expect(take).toMatchObject({
      origin: { how: 'drafted', asking, seed: 3, attempts: attemptsAt(4) },
      over: {
        harmony: 'h',
        tonic: ground.tonic,
        scale: ground.scale,
        role: 'comping',
        low: keys.brief.low,
        high: keys.brief.high,
      },
    });
    const bare = partAsking({ ground, bars: 2, kind: 'verse' }, keys);
    const free = draftedTake(
      place,
      { asking: bare, seed: 3, attempts: attemptsAt(4) },
      { of: 'part', part: 'p', notes: [] },
    );
    expect(free.of === 'part' && free.over).toBeNull();
  });

  it('that is edited says whose it is, and goes on following the chords', () => {
    const edited = editedTake('e', chosen, [...chosen.notes.slice(1), note(77)]);
    expect(edited.origin).toEqual({ how: 'edited', asking: null, seed: 0, attempts: null, parents: [chosen.id] });
    expect(edited.over).toBe(chosen.over);
    expect(edited.notes.slice(0, -1)).toEqual(chosen.notes.slice(1));
    expect(edited.notes.at(-1)!.id).toBe(chosen.notes.length);
    const reading = readChord('F#');
    const far = reading.ok ? reading.chord : null;
    const other = chordsTake({ ...place, id: 'far' }, [{ start: 0, duration: 3840, chord: far }], { how: 'typed' });
    const music = musicOf(score, { ...takes, far: other, e: edited }, { [section.id]: { harmony: 'far' } });
    const moved = fittedNotes(music, section, edited);
    expect(moved).not.toBe(edited.notes);
    expect(new Set(moved.map(({ id }) => id)).size).toBe(moved.length);
    expect(fittedNotes(music, section, edited)).toBe(moved);
    const loose = looseTake({ ...place, id: 'l' }, keys.id, edited.notes, { how: 'imported', from: 'a file' });
    expect(fittedNotes(music, section, loose)).toBe(loose.notes);
  });

  it('that is fitted again and again leads back to the one that it was made of, and still knows how that was drafted', () => {
    const once = fittedTake('f1', chosen, chosen.notes, { ...chosen.over!, harmony: 'x' });
    const twice = fittedTake('f2', once, once.notes, { ...once.over!, harmony: 'y' });
    expect(twice.origin).toMatchObject({ how: 'fitted', parents: [chosen.id], asking: chosen.origin.asking });
    expect(twice.over!.harmony).toBe('y');
  });

  it('that Fendro makes of chords lies over them, and one voice of a take over what the whole did', () => {
    const ground = score.ground;
    const voiced = voicedTake(place, keys, [note(0)], { from: 'a phrase', harmony: 'h', ground });
    expect(voiced).toMatchObject({
      origin: { how: 'voiced', from: 'a phrase' },
      over: { harmony: 'h', role: 'comping' },
    });
    expect(voicedTake(place, keys, [], { harmony: null, ground }).over).toBeNull();
    const melody = score.parts[0]!;
    const voice = voiceTake('v', chosen, melody, chosen.notes.slice(0, 2), 'voice 1');
    expect(voice).toMatchObject({ part: melody.id, over: { role: 'melody', harmony: chosen.over!.harmony } });
    const loose = looseTake(place, 'p', [note(0)], { how: 'imported' });
    expect(voiceTake('v', loose, melody, loose.notes, 'voice 1')).toMatchObject({
      origin: { how: 'imported' },
      over: null,
    });
  });
});

describe('the numbers of takes', () => {
  it('stay as they are, and what is made of a take by hand goes by its number', () => {
    const edited = editedTake('edited', chosen, []);
    const again = editedTake('again', edited, []);
    const loose = looseTake({ ...chosen, id: 'loose' }, chosen.part, [], { how: 'picked' });
    const numbers = takeNumbers([chosen, edited, loose, { ...chosen, id: 'second' }, again]);
    expect([...numbers]).toEqual([
      [chosen.id, 1],
      ['edited', 1],
      ['second', 2],
      ['again', 1],
    ]);
  });
});
