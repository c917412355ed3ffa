import { TestBed } from '@angular/core/testing';
import { chosenId } from '@fendro/core/song/section';
import { HARMONY, type HarmonyTake, type PartTake } from '@fendro/core/song/schema';
import { SessionActions } from '../store/session';
import { SMALL, viewOf } from '../testing/view';
import { BarsStrip } from '../workspace/bars-strip';
import { AuditionDesk } from './audition-desk';
import { CarryDesk } from './carry-desk';
import { PatternDesk } from './pattern-desk';
import { TakeView } from './take-view';
import { VersionsDesk } from './versions-desk';

const [first, second] = SMALL.score.sections;
const [melody] = SMALL.score.parts;
const drums = SMALL.score.parts.find(({ role }) => role === 'drums')!;

/** The melody of the first section in focus. */
function page(line = melody!.id) {
  const view = viewOf(BarsStrip, { keys: true, done: [SessionActions.lineFocused({ line })] });
  const heard = (section: string, of: string) => view.song.takes[view.session.heard[section]?.[of] ?? ''];
  return { view, heard, desk: TestBed.inject(CarryDesk) };
}

describe('carrying', () => {
  it('lets the take be heard in another section, turns to it, and chooses nothing', async () => {
    const { view, heard, desk } = page();
    expect(desk.what()).toBe(`${melody!.name} of ${first!.name}, take 1`);
    await desk.carry(second!.id, melody!.id, 0);
    const carried = heard(second!.id, melody!.id) as PartTake;
    expect(carried).toMatchObject({
      section: second!.id,
      origin: { how: 'voiced', from: `${melody!.name} of ${first!.name}, take 1` },
      over: { harmony: second!.harmony },
    });
    expect(view.session.occurrence).toBe('occurrence-2');
    expect(view.score).toBe(SMALL.score);
    expect(view.song.past).toEqual([]);
  });

  it('takes the selected bars alone, to a bar that is named', async () => {
    const { view, heard, desk } = page();
    view.act(() => {
      view.store.dispatch(SessionActions.barsSelected({ bars: { from: 1, to: 2 } }));
    });
    expect(desk.what()).toBe(`${melody!.name} of ${first!.name}, take 1, bar 2`);
    await desk.carry(second!.id, melody!.id, 0);
    const before = SMALL.takes[chosenId(second!, melody!.id)!] as PartTake;
    const inSecond = ({ notes }: PartTake) =>
      notes.filter(({ start }) => start >= 1920).map(({ start, pitch }) => [start, pitch]);
    expect(inSecond(heard(second!.id, melody!.id) as PartTake)).toEqual(inSecond(before));
  });

  it('offers drums to drums only, and says why where nothing could be played', async () => {
    const { view, desk } = page(drums.id);
    expect(desk.lines().map(({ id }) => id)).toEqual([drums.id]);
    await desk.carry(second!.id, melody!.id, 0);
    expect(desk.problem()).toMatch(/^Drums strike and other parts play pitches/);
    expect(view.session.heard).toEqual({});
  });

  it('carries chords to chords', async () => {
    const { heard, desk } = page(HARMONY);
    expect(desk.lines()).toEqual([{ id: HARMONY, name: 'Chords' }]);
    await desk.carry(second!.id, HARMONY, 0);
    const { chords } = SMALL.takes[first!.harmony!] as HarmonyTake;
    expect((heard(second!.id, HARMONY) as HarmonyTake).chords).toEqual(chords);
  });

  it('lets what goes on by itself go on there, over those chords and in that part’s register', async () => {
    const { view, heard, desk } = page();
    const bass = SMALL.score.parts.find(({ role }) => role === 'bass')!;
    view.act(() => {
      TestBed.inject(PatternDesk).begin('drawn');
    });
    await desk.carry(second!.id, bass.id, 0);
    const carried = heard(second!.id, bass.id) as PartTake;
    expect(carried.pattern).toMatchObject({ of: 'drawn', degrees: 'chord', low: bass.brief.low });
    expect(carried).toMatchObject({ section: second!.id, part: bass.id, over: { harmony: second!.harmony } });
    expect(Math.max(...carried.notes.map(({ pitch }) => pitch))).toBeLessThanOrEqual(bass.brief.high);
  });

  it('goes to versions too, and turns to a place that plays one', async () => {
    const { view, heard, desk } = page();
    const versions = TestBed.inject(VersionsDesk);
    view.press(view.page, 'e');
    const [, copy] = versions.shown();
    view.press(view.page, '1');
    view.act(() => {
      versions.turnTo(copy!.id);
    });
    expect(versions.present()?.id).toBe(copy!.id);
    await desk.carry(second!.id, melody!.id, 0);
    expect(heard(second!.id, melody!.id)).toBeDefined();
  });
});

describe('takes of every section', () => {
  it('are listed in the order of the sections, told by them, and turned to when they are heard', () => {
    const { view } = page();
    const [takes, audition] = [TestBed.inject(TakeView), TestBed.inject(AuditionDesk)];
    expect(takes.shown()).toHaveLength(2);
    view.press(view.page, 'A', { shiftKey: true });
    expect(takes.shown().map(({ section }) => section)).toEqual([first!.id, first!.id, second!.id, second!.id]);
    expect(takes.shown().map((take) => takes.captionOf(take))).toEqual([
      first!.name,
      first!.name,
      second!.name,
      second!.name,
    ]);
    expect(takes.shown().map(({ id }) => takes.numberOf(id))).toEqual([1, 2, 1, 2]);
    view.act(() => {
      audition.hear(takes.shown()[3]!.id);
    });
    expect(view.session.occurrence).toBe('occurrence-2');
    expect(audition.sounding()).toBe(takes.shown()[3]!.id);
    view.act(() => {
      audition.step(-1);
      audition.step(-1);
    });
    expect(view.session.occurrence).toBe('occurrence-1');
    view.act(() => {
      takes.query.set(second!.name);
    });
    expect(takes.shown().filter(({ section }) => section === second!.id)).toHaveLength(2);
    view.act(() => {
      takes.plain();
    });
    expect(takes.shown()).toHaveLength(2);
  });
});
