import type { Notes, Room } from '@fendro/core/shaping/room';
import { timeScale } from '../../ui/time-scale';
import { hitAt } from './hit';
import { rowsOf } from './row-layout';
import { beginsAt, boxed, dragged, nameOf, repitched, snapped, type Grip } from './gesture';

const ROOM: Room = { from: -1920, to: 7680, low: 36, high: 84 };
const notes: Notes = [
  { id: 0, start: 10, duration: 230, pitch: 60, velocity: 80 },
  { id: 1, start: 480, duration: 240, pitch: 64, velocity: 80 },
];
const grip = (part: 'body' | 'start' | 'end', ids: readonly number[] = [0]): Extract<Grip, { of: 'notes' }> => ({
  of: 'notes',
  part,
  note: 0,
  ids: new Set(ids),
});
const drag = (own: Grip, at: number, pitch: number, copy = false, snap = 120) =>
  dragged(notes, own, { at: 100, pitch: 60 }, { at: 100 + at, pitch }, { copy, snap }, ROOM);
const placesOf = (edited: ReturnType<typeof dragged>) =>
  edited?.notes.map(({ id, start, duration, pitch }) => [id, start, duration, pitch]);

describe('a drag in the close-up', () => {
  it('moves notes so that the one it holds lands on the grid, the others with it', () => {
    expect(placesOf(drag(grip('body', [0, 1]), 100, 62))).toEqual([
      [0, 120, 230, 62],
      [1, 590, 240, 66],
    ]);
    expect(placesOf(drag(grip('body'), 13, 60, false, 0))![0]).toEqual([0, 23, 230, 60]);
  });

  it('copies notes with Alt, and leaves them where nothing moved', () => {
    const copied = drag(grip('body'), 230, 60, true)!;
    expect(placesOf(copied)).toEqual([
      [0, 10, 230, 60],
      [2, 240, 230, 60],
      [1, 480, 240, 64],
    ]);
    expect([...copied.picked]).toEqual([2]);
    expect(drag(grip('body'), 10, 60, true, 0)?.notes).not.toBe(notes);
  });

  it('changes where notes begin and end', () => {
    expect(placesOf(drag(grip('end'), 100, 60))![0]).toEqual([0, 10, 350, 60]);
    expect(placesOf(drag(grip('start'), 100, 60))![0]).toEqual([0, 120, 120, 60]);
    expect([nameOf(grip('end'), false), nameOf(grip('body'), true)]).toEqual(['change where notes end', 'copy notes']);
  });

  it('over empty space picks what its box touches, beside what was picked', () => {
    const nothing = { of: 'nothing', kept: new Set([7]) } as const;
    expect(
      dragged(notes, nothing, { at: 0, pitch: 60 }, { at: 1, pitch: 60 }, { copy: false, snap: 0 }, ROOM),
    ).toBeNull();
    expect([...boxed(notes, nothing, { at: 700, pitch: 65 }, { at: 400, pitch: 63 })]).toEqual([7, 1]);
  });

  it('takes hold of a note at its body or its ends, and of drums all around their beat', () => {
    const wish = { choice: 'what is played', key: { tonic: 0, scale: 'major' }, chords: [], room: ROOM } as const;
    const rows = rowsOf({ ...wish, notes, drums: false });
    const x = timeScale(0, 960, 960);
    const middle = (pitch: number): number => rows.of(pitch)!.top + 8;
    const at = (left: number, pitch: number) => {
      const hit = hitAt({ notes, drums: false, rows, x }, left, middle(pitch));
      return hit && [hit.note.id, hit.part];
    };
    expect([at(12, 60), at(120, 60), at(236, 60), at(300, 60), at(500, 64)]).toEqual([
      [0, 'start'],
      [0, 'body'],
      [0, 'end'],
      null,
      [1, 'body'],
    ]);
    const kit = rowsOf({ ...wish, notes, drums: true });
    const hit = hitAt({ notes, drums: true, rows: kit, x }, 2, kit.of(60)!.top + 8);
    expect(hit).toMatchObject({ note: { id: 0 }, part: 'body' });
  });

  it('knows the grid, and what sounds anew', () => {
    expect([snapped(170, 120), snapped(170.4, 0), beginsAt(239, 120), beginsAt(239.6, 0)]).toEqual([
      120, 170, 120, 240,
    ]);
    expect(repitched(notes, [notes[0]!, { ...notes[1]!, pitch: 65 }]).map(({ pitch }) => pitch)).toEqual([65]);
  });
});
