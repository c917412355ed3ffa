import type { BriefWord } from '@fendro/core/song/brief-words';
import { changeBrief } from '@fendro/core/song/edit';
import { addMotif, changePlan } from '@fendro/core/song/plan';
import { roleOf } from '@fendro/core/song/roles';
import type { Role, Score } from '@fendro/core/song/schema';
import { fireEvent } from '@testing-library/dom';
import { DraftRuns } from '../desks/draft-runs';
import { SMALL, View, viewOf } from '../testing/view';
import { BriefShelf } from './brief-shelf';
import { ExactBrief } from './exact-brief';
import { PartBriefControl } from './part-brief';
import { ChangeDetectionStrategy, Component, input, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';

@Component({ selector: 'fd-brief-shelf', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class NoShelf {
  readonly part = input();
}

const partIn = (score: Score, role: Role) => score.parts.find((part) => part.role === role)!;

/** A part's brief; another one of it is shown as an edit makes it. */
function briefOf(role: Role, score = SMALL.score, blamed?: BriefWord) {
  const problem = signal<unknown>('what could not be met');
  TestBed.resetTestingModule();
  TestBed.overrideComponent(ExactBrief, { remove: { imports: [BriefShelf] }, add: { imports: [NoShelf] } });
  const view: View<PartBriefControl> = viewOf(PartBriefControl, {
    score,
    anew: false,
    inputs: { part: partIn(score, role), ...(blamed ? { blamed } : {}) },
    providers: [{ provide: DraftRuns, useValue: { problem } }],
  });
  const open = async (): Promise<void> => {
    view.act(() => fireEvent.click(view.by.getAllByRole('spinbutton')[0]!));
    // What is exact is loaded when it is asked for.
    await view.fixture.whenStable();
    view.fixture.detectChanges();
  };
  return { view, problem, open, brief: () => partIn(view.score, role).brief };
}

describe('a part’s brief', () => {
  it('is a sentence of its role’s words, with what is off its usual first', () => {
    const { view } = briefOf('melody');
    const said = view.by.getAllByRole('spinbutton').length;
    expect(said).toBe(roleOf('melody').words.length);
    const [melody] = SMALL.score.parts;
    const odd = changeBrief(SMALL.score, melody!.id, { breath: 97 });
    const first = briefOf('melody', odd).view.by.getAllByRole('spinbutton')[0]!;
    expect(first.getAttribute('aria-label') ?? first.getAttribute('aria-labelledby')).toMatch(/breath/i);
  });

  it('names a setting that asks for too much, even one that is no word of its role', () => {
    const { view } = briefOf('melody', SMALL.score, 'voices');
    expect(view.by.getAllByRole('spinbutton')).toHaveLength(roleOf('melody').words.length + 1);
  });

  it('loses no key that comes before the page was drawn again', () => {
    const { view, brief } = briefOf('melody');
    const words = (keys: readonly string[]): number => {
      const before = brief().busyness;
      const word = view.by.getByRole('spinbutton', { name: 'Busyness' });
      view.act(() => keys.forEach((key) => fireEvent.keyDown(word, { key })));
      view.show({ part: partIn(view.score, 'melody') });
      return brief().busyness - before;
    };
    const one = words(['ArrowUp']);
    expect(one).not.toBe(0);
    words(['ArrowDown', 'ArrowDown', 'ArrowDown']);
    const before = brief().busyness;
    expect(words(['ArrowUp', 'ArrowUp'])).toBeGreaterThan(one);
    expect(brief().busyness).toBeGreaterThan(before + one);
  });

  it('changes a word by steps, in one step of undo, and forgets what could not be met', () => {
    const { view, brief, problem } = briefOf('melody');
    const before = brief().busyness;
    const word = view.by.getByRole('spinbutton', { name: /busy/i });
    view.press(word, 'ArrowUp');
    view.show({ part: partIn(view.score, 'melody') });
    view.press(view.by.getByRole('spinbutton', { name: /busy/i }), 'ArrowUp');
    expect(brief().busyness).toBeGreaterThan(before);
    expect(view.song.past).toHaveLength(1);
    expect(problem()).toBeNull();
  });

  it('is set exactly, the ends of its range never crossing', async () => {
    const { view, open, brief } = briefOf('melody');
    await open();
    view.set('slider', /^Adventure/, '77', 'input');
    expect(brief().adventure).toBe(77);
    view.show({ part: partIn(view.score, 'melody') });
    const { high } = brief();
    view.set('slider', /^Lowest/, String(high + 5), 'input');
    expect(brief().low).toBeLessThanOrEqual(high);
    view.set('combobox', 'Grid of the part', 'triplets');
    expect(brief().grid).toBe('triplets');
    view.show({ part: partIn(view.score, 'melody') });
    view.set('combobox', 'Grid of the part', '');
    expect(brief().grid).toBeNull();
    view.click('checkbox', /follows the energy/);
    expect(brief().follows).toBe(false);
  });

  it('has the ways of a bass and the times of drums, and no range for drums', async () => {
    const bass = briefOf('bass');
    await bass.open();
    bass.view.set('combobox', 'Way of the bass', 'walking');
    expect(bass.brief().way).toBe('walking');
    const drums = briefOf('drums');
    await drums.open();
    expect(drums.view.by.queryByRole('slider', { name: /^Lowest/ })).toBeNull();
    drums.view.set('combobox', 'Half or double time', 'half');
    expect(drums.brief().time).toBe('half');
  });

  it('says how its section leans it and what it does with the motif; one click frees the section', () => {
    const { view } = briefOf('melody');
    expect(view.page.textContent).toContain('In Verse: lower, sparser');
    view.click('button', 'Free Verse');
    expect(view.score.sections[0]!.plan.bound).toBe(false);
    expect(view.page.textContent).toContain('Verse is free');
    view.click('button', 'Bind Verse');
    expect(view.score.sections[0]!.plan.bound).toBe(true);
    const motif = { id: 'm', name: 'The wind', bars: 1, barTicks: 1920, notes: [{ start: 0, duration: 480, step: 0 }] };
    const planned = changePlan(addMotif(SMALL.score, motif), 'section-1', { motif: 'm', use: 'inverts' });
    expect(briefOf('melody', planned).view.page.textContent).toContain('turns “The wind” upside down');
  });
});
