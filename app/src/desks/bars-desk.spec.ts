import { TestBed } from '@angular/core/testing';
import { chosenId } from '@fendro/core/song/section';
import { HARMONY, type HarmonyTake, type PartTake, type TakeNote } from '@fendro/core/song/schema';
import { chordsTake } from '@fendro/core/song/take';
import { Notices } from '../store/notices';
import { SessionActions } from '../store/session';
import { TakeActions } from '../store/song.actions';
import { SMALL, viewOf, type View } from '../testing/view';
import { BarsStrip } from '../workspace/bars-strip';
import { BarsDesk } from './bars-desk';

const [melody] = SMALL.score.parts;
const drums = SMALL.score.parts.find(({ role }) => role === 'drums')!;
const BAR = 1920;

/** The strip over the second bar of a part, and what sounds there. */
function strip(part = melody!.id) {
  const view = viewOf(BarsStrip, {
    done: [SessionActions.lineFocused({ line: part }), SessionActions.barsSelected({ bars: { from: 1, to: 2 } })],
  });
  const take = (): PartTake => {
    const id = chosenId(view.score.sections[0]!, part) ?? '';
    return view.song.takes[id] as PartTake;
  };
  return { view, take, desk: TestBed.inject(BarsDesk) };
}
/** Chords of the first section a tone above those that it has. */
function otherChords(view: View<BarsStrip>): HarmonyTake {
  const section = view.score.sections[0]!;
  const { length, chords } = view.song.takes[chosenId(section, HARMONY) ?? ''] as HarmonyTake;
  const higher = chords.map(({ chord, ...span }) => ({
    ...span,
    chord: chord && { ...chord, root: chord.root + 2, bass: null },
  }));
  return chordsTake({ id: 'other-chords', section: section.id, length }, higher, { how: 'typed' });
}
const pressed = (view: View<BarsStrip>, name: string): void => {
  view.click('button', name);
};
const inBar = ({ notes }: PartTake) => notes.filter(({ start }) => start >= BAR && start < 2 * BAR);

describe('what is done to selected bars', () => {
  it('says which they are', () => {
    expect(strip().view.by.getByRole('toolbar', { name: 'Bars 2' })).toBeTruthy();
  });

  it('makes a take that names its parent, changes nothing else, and is one step of undo', () => {
    const { view, take } = strip();
    const before = take();
    expect(inBar(before).length).toBeGreaterThan(0);
    pressed(view, 'Octave up');
    const after = take();
    expect(after.origin).toMatchObject({ how: 'edited', parents: [before.id] });
    expect(inBar(after).map(({ pitch }) => pitch)).toEqual(inBar(before).map(({ pitch }) => pitch + 12));
    expect(after.notes.filter((note) => !inBar(after).includes(note))).toEqual(
      before.notes.filter((note) => !inBar(before).includes(note)),
    );
    expect(after.notes.map(({ id }) => id)).toEqual(before.notes.map(({ id }) => id));
    expect(view.song.past).toHaveLength(1);
  });

  it('lets the part rest, and then has nothing more to do there', () => {
    const { view, take, desk } = strip();
    pressed(view, 'Rest');
    expect(inBar(take())).toEqual([]);
    expect(desk.canEdit()).toBe(false);
    expect(view.by.getByRole('button', { name: 'Rest' }).getAttribute('aria-disabled')).toBe('true');
  });

  it('makes them louder and softer, a run of presses as one step', () => {
    const { view, take } = strip();
    const before = inBar(take());
    pressed(view, 'Louder');
    pressed(view, 'Louder');
    expect(inBar(take())[0]!.velocity).toBe(Math.min(127, before[0]!.velocity + 12));
    expect(view.song.past).toHaveLength(1);
  });

  it('never leaves the instrument’s reach, and says so', () => {
    const { view, take } = strip();
    const say = jest.spyOn(TestBed.inject(Notices), 'say');
    for (let times = 0; times < 6; times++) pressed(view, 'Octave up');
    const highest = take();
    expect(say).toHaveBeenCalledWith(expect.stringContaining('does not reach an octave higher'));
    pressed(view, 'Octave up');
    expect(take()).toBe(highest);
  });

  it('has no octaves for drums', () => {
    const { view, desk } = strip(drums.id);
    expect(desk.canEdit()).toBe(true);
    expect(desk.hasOctaves()).toBe(false);
    expect(view.by.getByRole('button', { name: 'Octave up' }).getAttribute('aria-disabled')).toBe('true');
  });

  it('puts bars of a heard take into the chosen one: the take names both, and the rest stays', () => {
    const { view, take, desk } = strip();
    const before = take();
    const section = view.score.sections[0]!.id;
    const other = Object.values(view.song.takes).find(
      (own): own is PartTake =>
        own.of === 'part' && own.part === melody!.id && own.section === section && own.id !== before.id,
    )!;
    expect(desk.canPut()).toBe(false);
    view.act(() => {
      view.store.dispatch(TakeActions.heard({ take: other.id, section, line: melody!.id }));
    });
    view.act(() => {
      desk.put();
    });
    const after = take();
    const plain = (notes: readonly TakeNote[]) => notes.map(({ start, pitch }) => [start, pitch]);
    expect(after.origin.parents).toEqual([before.id, other.id]);
    expect(plain(inBar(after))).toEqual(plain(inBar(other)));
    const outside = (own: PartTake) => own.notes.filter((note) => !inBar(own).includes(note));
    expect(plain(outside(after))).toEqual(plain(outside(before)));
    expect(view.session.heard).toEqual({});
  });

  it('puts bars together over chords that are only heard: the take names those chords, and what it was before them', () => {
    const { view, take, desk } = strip();
    const before = take();
    const section = view.score.sections[0]!;
    const own = Object.values(view.song.takes).filter((other) => other.section === section.id);
    const other = own.find(
      (each): each is PartTake => each.of === 'part' && each.part === melody!.id && each.id !== before.id,
    )!;
    const moved = otherChords(view);
    view.act(() => {
      view.store.dispatch(TakeActions.made({ takes: [moved] }));
      view.store.dispatch(TakeActions.heard({ take: moved.id, section: section.id, line: HARMONY }));
      view.store.dispatch(TakeActions.heard({ take: other.id, section: section.id, line: melody!.id }));
    });
    view.act(() => {
      desk.put();
    });
    const after = take();
    const between = view.song.takes[after.origin.parents[0]!] as PartTake;
    expect(after.over?.harmony).toBe(moved.id);
    expect(between.origin).toMatchObject({ how: 'fitted', parents: [before.id] });
  });

  it('fits a take once for a run of keys over chords that are only heard', () => {
    const { view, take, desk } = strip();
    const section = view.score.sections[0]!;
    const moved = otherChords(view);
    view.act(() => {
      view.store.dispatch(TakeActions.made({ takes: [moved] }));
      view.store.dispatch(TakeActions.heard({ take: moved.id, section: section.id, line: HARMONY }));
    });
    const known = Object.keys(view.song.takes).length;
    for (let press = 0; press < 3; press++)
      view.act(() => {
        desk.louder(1);
      });
    expect(Object.keys(view.song.takes)).toHaveLength(known + 2);
    expect(take().over?.harmony).toBe(moved.id);
  });
});
