import { signal } from '@angular/core';
import { fireEvent } from '@testing-library/dom';
import { addMotif, planned } from '@fendro/core/song/plan';
import { DraftRuns } from '../../desks/draft-runs';
import { Drafting } from '../../desks/drafting';
import { SMALL, viewOf } from '../../testing/view';
import { PlanDrawer } from './plan-drawer';

const motif = {
  id: 'm',
  name: 'The wind',
  bars: 2,
  barTicks: 1920,
  notes: [
    { start: 0, duration: 480, step: 0 },
    { start: 960, duration: 480, step: 3 },
  ],
};
const score = planned(
  addMotif(SMALL.score, motif),
  'm',
  SMALL.score.sections.map(({ id }) => id),
);

function plan(of = score) {
  const drafting = { whole: signal<number | null>(null), draftSong: jest.fn().mockResolvedValue(false) };
  const runs = { busy: signal(false), cancel: jest.fn() };
  const providers = [
    { provide: Drafting, useValue: drafting },
    { provide: DraftRuns, useValue: runs },
  ];
  return { drafting, runs, view: viewOf(PlanDrawer, { score: of, providers }) };
}

describe('the plan drawer', () => {
  it('says for each section how it leans and what it does with the motif', () => {
    const { view } = plan();
    expect(view.by.getAllByRole('row')).toHaveLength(score.sections.length + 1);
    expect(view.by.getByRole('row', { name: /Chorus/ }).textContent).toContain('higher, busier');
    const use = view.by.getByRole<HTMLSelectElement>('combobox', { name: 'What Chorus does with it' });
    expect(use.selectedOptions[0]!.textContent).toContain('states it');
  });

  it('binds and frees, plans another motif and another use', () => {
    const { view } = plan();
    view.click('button', 'Bound: Verse');
    expect(view.score.sections[0]!.plan.bound).toBe(false);
    expect(view.by.getByRole('row', { name: /Verse/ }).textContent).toContain('free');
    const choose = (name: string, text: string): void => {
      const field = view.by.getByRole<HTMLSelectElement>('combobox', { name });
      const option = [...field.options].find((own) => own.textContent.includes(text))!;
      view.set('combobox', name, option.value);
    };
    choose('What Verse does with it', 'upside down');
    expect(view.score.sections[0]!.plan.use).toBe('inverts');
    choose('Motif of Verse', 'no motif');
    expect(view.score.sections[0]!.plan.motif).toBeNull();
    expect(view.by.queryByRole('combobox', { name: 'What Verse does with it' })).toBeNull();
  });

  it('renames and forgets what the song remembers', () => {
    const { view } = plan();
    view.set('textbox', 'Name of The wind', 'The mast');
    expect(view.score.motifs[0]!.name).toBe('The mast');
    view.click('button', 'Forget The mast');
    expect(view.score.motifs).toEqual([]);
    expect(view.page.textContent).toContain('Nothing yet');
  });

  it('drafts the sections that are wanted, shows how far it is, and can be cancelled', () => {
    const { view, drafting, runs } = plan();
    view.act(() => fireEvent.click(view.by.getByRole('checkbox', { name: 'Draft Verse' })));
    view.click('button', 'Draft the song');
    expect([...(drafting.draftSong.mock.calls[0] as [Set<string>])[0]]).toEqual(['section-2']);
    expect(view.by.getByRole<HTMLInputElement>('checkbox', { name: /^and an ending: / }).checked).toBe(true);
    drafting.whole.set(0.4);
    view.fixture.detectChanges();
    expect(view.by.getByRole('progressbar', { name: 'Drafting the song' }).getAttribute('aria-valuenow')).toBe('40');
    view.click('button', 'Cancel');
    expect(runs.cancel).toHaveBeenCalled();
  });
});
