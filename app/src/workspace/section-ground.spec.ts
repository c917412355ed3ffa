import type { Score } from '@fendro/core/song/schema';
import { HarmonyDesk } from '../desks/harmony-desk';
import { SessionActions } from '../store/session';
import { SMALL, viewOf } from '../testing/view';
import { SectionGround } from './section-ground';

const { score } = SMALL;
const [verse, chorus] = score.sections;
const ground = (own: Score['sections'][number]['ground'] = {}) => {
  const desk = { changeGround: jest.fn() };
  const view = viewOf(SectionGround, {
    score: { ...score, sections: [{ ...verse!, ground: own }, chorus!] },
    providers: [{ provide: HarmonyDesk, useValue: desk }],
  });
  const asked = (): unknown => (desk.changeGround.mock.calls.at(-1) as unknown[] | undefined)?.[0];
  const shown = (name: string): string => view.by.getByRole<HTMLSelectElement>('combobox', { name }).value;
  return { view, desk, asked, shown };
};

describe('a section’s own ground', () => {
  it('says where it is the song’s', async () => {
    const { shown, view } = ground();
    await view.fixture.whenStable();
    expect(['Section key', 'Section scale', 'Section metre'].map(shown)).toEqual([
      'song',
      'as the song',
      'as the song',
    ]);
    expect(view.by.getByRole<HTMLInputElement>('textbox', { name: 'Section tempo' }).value).toBe('');
  });

  it('shows what is the section’s own', async () => {
    const { shown, view } = ground({ scale: 'minor', tempo: 72, metre: { beats: 3, unit: 4, groups: [1, 2] } });
    await view.fixture.whenStable();
    expect([shown('Section scale'), shown('Section metre')]).toEqual(['Minor', '3/4 1+2']);
    expect(view.by.getByRole<HTMLInputElement>('textbox', { name: 'Section tempo' }).value).toBe('72');
  });

  it('changes one thing at a time, and goes back to the song’s', () => {
    const { view, asked } = ground({ tempo: 72, tonic: 1, metre: { beats: 3, unit: 4, groups: [1, 1, 1] } });
    view.set('combobox', 'Section metre', '6/8');
    expect(asked()).toMatchObject({ section: verse!.id, change: { metre: { beats: 6, unit: 8 } } });
    view.set('combobox', 'Section metre', 'as the song');
    expect(asked()).toEqual({ section: verse!.id, change: { metre: score.ground.metre } });
    view.set('combobox', 'Section key', '2');
    expect(asked()).toMatchObject({ change: { tonic: 2 } });
    view.set('combobox', 'Section key', 'song');
    expect(asked()).toEqual({ section: verse!.id, change: { tonic: score.ground.tonic } });
    view.set('textbox', 'Section tempo', ' ');
    expect(asked()).toEqual({ section: verse!.id, change: { tempo: score.ground.tempo } });
  });

  it('names its own key as a new scale does: D flat major, C sharp minor', () => {
    const { view, asked } = ground({ tonic: -5 });
    view.find('Section scale', 'minor');
    expect(asked()).toMatchObject({ change: { scale: 'minor', tonic: 7 } });
    const own = ground({ scale: 'minor' });
    own.view.find('Section scale', 'as the song');
    expect(own.asked()).toMatchObject({ change: { scale: score.ground.scale } });
  });

  it('tells a tempo that is none, changes nothing by it, and forgets it in another section', () => {
    const { view, desk } = ground();
    view.set('textbox', 'Section tempo', '9999');
    expect(view.by.getByRole('alert').textContent).toMatch(/20 to 300/);
    expect(desk.changeGround).not.toHaveBeenCalled();
    view.act(() => {
      view.store.dispatch(SessionActions.occurrenceViewed({ occurrence: 'occurrence-2' }));
    });
    expect(view.by.queryByRole('alert')).toBeNull();
    view.set('textbox', 'Section tempo', '90,5');
    expect(view.by.queryByRole('alert')).toBeNull();
    expect(desk.changeGround).toHaveBeenCalledTimes(1);
  });
});
