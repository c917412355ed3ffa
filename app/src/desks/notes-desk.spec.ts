import { TestBed } from '@angular/core/testing';
import { holdsOf } from '@fendro/core/song/holds';
import { chosenId } from '@fendro/core/song/section';
import type { PartTake } from '@fendro/core/song/schema';
import { News } from '../store/news';
import { SessionActions } from '../store/session';
import { TakeActions } from '../store/song.actions';
import { SMALL, viewOf } from '../testing/view';
import { BarsStrip } from '../workspace/bars-strip';
import { MotifDesk } from './motif-desk';
import { NotesDesk } from './notes-desk';

const [first] = SMALL.score.sections;
const [melody] = SMALL.score.parts;
const line = SMALL.takes[chosenId(first!, melody!.id)!] as PartTake;

/** The page with the melody in focus. */
function page() {
  const view = viewOf(BarsStrip, { keys: true, done: [SessionActions.lineFocused({ line: melody!.id })] });
  const [notes, motifs] = [TestBed.inject(NotesDesk), TestBed.inject(MotifDesk)];
  const keys = (...pressed: string[]) => {
    for (const key of pressed) view.press(view.page, key);
  };
  const held = () => holdsOf(view.score.sections[0]!, melody!.id);
  return { view, notes, motifs, keys, held, said: () => TestBed.inject(News).latest().text };
}

describe('single notes', () => {
  it('are gone over one by one, said aloud, and the bar goes along', () => {
    const { notes, keys, view, said } = page();
    keys('.');
    expect(notes.ids()).toEqual([line.notes[0]!.id]);
    expect(said()).toMatch(/^[A-G].*, bar 1, /);
    for (let step = 0; step < 99; step++) keys('.');
    expect(notes.ids()).toEqual([line.notes.at(-1)!.id]);
    expect(view.session.cursor).toBe(1);
    keys(',');
    expect(notes.ids()).toEqual([line.notes.at(-2)!.id]);
    keys('Escape');
    expect(notes.any()).toBe(false);
  });

  it('are held and freed by the same key as bars, and hatched', () => {
    const { keys, held, said } = page();
    keys('.', 'h');
    expect(held()).toEqual([
      { take: line.id, aspects: ['rhythm', 'pitch', 'dynamics'], bars: [], notes: [line.notes[0]!.id] },
    ]);
    expect(said()).toBe(`One note of ${melody!.name} held`);
    keys('.', 'j', '.', 'j', 'h');
    expect(held()[0]!.notes).toEqual(line.notes.slice(0, 3).map(({ id }) => id));
    expect(said()).toBe(`2 notes of ${melody!.name} held`);
    keys('h');
    expect(held()[0]!.notes).toEqual([line.notes[0]!.id]);
  });

  it('are picked with the pointer, alone or with others, and let go with them', () => {
    const { notes } = page();
    const [a, b] = line.notes.map(({ id }) => id) as [number, number];
    notes.pick(a, false);
    notes.pick(b, true);
    expect(notes.ids()).toEqual([a, b]);
    notes.pick(a, true);
    expect(notes.ids()).toEqual([b]);
    notes.pick(a, false);
    expect(notes.ids()).toEqual([a]);
    notes.pick(999, false);
    expect(notes.ids()).toEqual([a]);
  });

  it('of one take are nothing in another', () => {
    const { view, notes, keys } = page();
    keys('.');
    const other = Object.values(SMALL.takes).find(
      (take) => take.of === 'part' && take.part === melody!.id && take.section === first!.id && take.id !== line.id,
    )!;
    view.act(() => {
      view.store.dispatch(TakeActions.heard({ section: first!.id, line: melody!.id, take: other.id }));
    });
    expect(notes.any()).toBe(false);
  });
});

describe('motifs by hand', () => {
  it('are remembered from selected bars or picked notes, and are in hand', () => {
    const { view, motifs, keys } = page();
    expect(motifs.found()).toBeNull();
    view.act(() => {
      view.store.dispatch(SessionActions.barsSelected({ bars: { from: 1, to: 2 } }));
    });
    keys('s');
    expect(view.score.motifs).toMatchObject([{ name: `${melody!.name}, ${first!.name}, Bar 2`, bars: 1 }]);
    expect(motifs.inHand()?.id).toBe(view.score.motifs[0]!.id);
    // No section begins to use it unasked.
    expect(view.score.sections.every(({ plan }) => plan.motif === null)).toBe(true);
    keys('.', 'j', '.', 'j', 's');
    expect(view.score.motifs).toHaveLength(2);
    expect(view.score.motifs[1]!.notes).toHaveLength(2);
    expect(motifs.inHand()?.id).toBe(view.score.motifs[1]!.id);
  });

  it('of drums are rhythms without steps', () => {
    const { view, motifs } = page();
    const drums = SMALL.score.parts.find(({ role }) => role === 'drums')!;
    view.act(() => {
      view.store.dispatch(SessionActions.lineFocused({ line: drums.id }));
      view.store.dispatch(SessionActions.barsSelected({ bars: { from: 0, to: 1 } }));
    });
    expect(motifs.found()!.notes.length).toBeGreaterThan(1);
    expect(new Set(motifs.found()!.notes.map(({ step }) => step))).toEqual(new Set([0]));
  });
});
