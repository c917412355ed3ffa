import { TestBed } from '@angular/core/testing';
import { chosenId } from '@fendro/core/song/section';
import { versionsOf } from '@fendro/core/song/versions';
import { VersionsDesk } from '../desks/versions-desk';
import { News } from '../store/news';
import { SessionActions } from '../store/session';
import { SongActions, TakeActions } from '../store/song.actions';
import { SMALL, viewOf } from '../testing/view';
import { SectionVersions } from './section-versions';

const [first] = SMALL.score.sections;
const [melody] = SMALL.score.parts;

/** The versions of the first section, which sounds in the first and the third place. */
function versions() {
  const view = viewOf(SectionVersions, {
    keys: true,
    done: [SessionActions.occurrenceViewed({ occurrence: 'occurrence-1' })],
  });
  const desk = TestBed.inject(VersionsDesk);
  const playedIn = () =>
    view.score.order.map(({ section }) => versionsOf(view.score, first!).findIndex(({ id }) => id === section));
  const names = () => view.by.queryAllByRole('button', { pressed: true }).map(({ textContent }) => textContent.trim());
  const key = (key: string, more: KeyboardEventInit = {}) => {
    view.press(view.page, key, more);
  };
  return { view, desk, playedIn, names, key };
}

describe('versions of a section', () => {
  it('are not told of where there is one', () => {
    const { view, desk } = versions();
    expect(desk.shown()).toEqual([]);
    expect(view.by.queryAllByRole('button', { name: /heard/ })).toEqual([]);
  });

  it('are made by a key, called by what differs, and switched by figures for every place', () => {
    const { view, names, key, desk } = versions();
    key('e');
    expect(names()).toEqual(['2the same']);
    expect(TestBed.inject(News).latest().text).toBe(`${first!.name}, the same: made of what is heard`);
    view.act(() => {
      view.store.dispatch(TakeActions.chosen({ section: desk.shown()[1]!.id, line: melody!.id, take: null }));
    });
    expect(names()).toEqual([`2without ${melody!.name.toLowerCase()}`]);
    expect(
      chosenId(
        view.score.sections.find(({ id }) => id === first!.id)!,
        melody!.id,
      ),
    ).toBe(chosenId(first!, melody!.id));
    key('1');
    expect(names()).toEqual(['1as first heard']);
    expect(TestBed.inject(News).latest().text).toBe(`${first!.name}, as first heard: plays`);
    expect(view.score.order.map(({ section }) => section)).toEqual(SMALL.score.order.map(({ section }) => section));
    key('9');
    expect(names()).toEqual(['1as first heard']);
  });

  it('are switched in one place alone with Shift, whatever the key types', () => {
    const { view, key, desk } = versions();
    key('e');
    const [, copy] = desk.shown();
    key('1');
    key('"', { code: 'Digit2', shiftKey: true });
    expect(view.score.order.map(({ section }) => section)).toEqual([copy!.id, 'section-2', first!.id]);
    expect(desk.shown().map(({ places }) => places)).toEqual([1, 1]);
    // On keyboards that type figures with Shift only.
    key('&', { code: 'Digit1' });
    expect(desk.shown().map(({ places }) => places)).toEqual([2, 0]);
  });

  it('take what is only tried along, and leave the old one as it was chosen', () => {
    const { view, key, desk } = versions();
    const rival = Object.values(SMALL.takes).find(
      (take) => take.of === 'part' && take.section === first!.id && take.part === melody!.id && take.id.endsWith('1'),
    )!;
    view.act(() => {
      view.store.dispatch(TakeActions.heard({ section: first!.id, line: melody!.id, take: rival.id }));
    });
    key('e');
    expect(view.session.heard).toEqual({});
    const copy = view.score.sections.find(({ id }) => id === desk.present()?.id)!;
    expect(view.song.takes[chosenId(copy, melody!.id)!]).toMatchObject({ notes: (rival as { notes?: unknown }).notes });
    expect(names(view)).toContain(`other ${melody!.name.toLowerCase()}`);
  });

  it('are named, and taken out again with what they played', () => {
    const { view, key, desk } = versions();
    key('e');
    view.act(() => {
      desk.naming.set(true);
    });
    view.set('textbox', 'Name of this version', 'Louder');
    expect(names(view)).toContain('Louder');
    expect(desk.naming()).toBe(false);
    view.act(() => {
      desk.remove();
    });
    expect(view.score.sections.map(({ id }) => id)).toEqual(SMALL.score.sections.map(({ id }) => id));
    expect(view.score.sections[0]!.version).toBeNull();
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(names(view)).toContain('Louder');
  });

  it('let a selection go that the other is too short for, and are one step of undo however often they are switched', () => {
    const { view, key } = versions();
    key('e');
    view.act(() => {
      view.store.dispatch(SessionActions.barsSelected({ bars: { from: 2, to: 4 } }));
    });
    for (const figure of ['1', '2', '1', '2']) key(figure);
    expect(view.session.bars).toBeNull();
    expect(view.song.past.map(({ name }) => name)).toEqual(['make another version', 'switch the version']);
  });
});

const names = (view: ReturnType<typeof versions>['view']): string =>
  view.by
    .queryAllByRole('button')
    .map(({ textContent }) => textContent)
    .join();
