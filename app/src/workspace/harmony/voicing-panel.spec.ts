import { HARMONY, type ChordSpan } from '@fendro/core/song/schema';
import { voicedChords } from '@fendro/core/voicing/chord-line';
import { within } from '@testing-library/dom';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { selectChords } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { SMALL, viewOf } from '../../testing/view';
import { ChordDesk } from '../../desks/chord-desk';
import { VoicingPanel } from './voicing-panel';

function panel() {
  const view = viewOf(VoicingPanel, {
    providers: [ChordDesk],
    done: [SessionActions.lineFocused({ line: HARMONY }), SessionActions.chordFocused({ at: 0 })],
  });
  const first = (): ChordSpan => view.store.selectSignal(selectChords)()[0]!;
  const setting = () => view.score.sections[0]!.chordSetting;
  const pitches = (): readonly number[] => voicedChords(view.store.selectSignal(selectChords)(), setting())[0]!.pitches;
  return { view, first, setting, pitches };
}

describe('how chords are voiced', () => {
  it('is set for the section, and says what leading smoothly saves', () => {
    const { view, setting } = panel();
    view.set('combobox', 'Spread', 'open');
    view.set('combobox', 'Voiced for', 'guitar');
    view.set('combobox', 'Bass note', 'left out');
    expect(setting()).toMatchObject({ spread: 'open', family: 'guitar', bass: 'left out' });
    view.click('checkbox', /lead smoothly/);
    expect(setting().smooth).toBe(false);
    expect(view.by.getByRole('status').textContent).toMatch(/semitones from chord to chord.*% saved/);
  });

  it('is set by hand for one chord, and given back to the section', () => {
    const { view, first } = panel();
    view.set('combobox', 'Inversion', '1');
    view.set('combobox', 'Spread of this chord', 'wide');
    expect(first().voicing).toEqual({ inversion: 1, spread: 'wide' });
    view.set('combobox', 'Inversion', '');
    expect(first().voicing).toEqual({ spread: 'wide' });
    view.click('button', 'Let it lead by itself again');
    expect(first()).not.toHaveProperty('voicing');
  });

  it('lets single voices be nudged, a run of nudges as one step, and never two onto one note', () => {
    const { view, first, pitches } = panel();
    const before = [...pitches()];
    const steps = view.song.past.length;
    const rows = (): HTMLElement[] => view.by.getAllByRole('row').slice(1);
    const up = (row: HTMLElement): HTMLElement => within(row).getByRole('button', { name: /a semitone up$/ });
    view.act(() => {
      up(rows()[0]!).click();
    });
    view.act(() => {
      up(rows()[0]!).click();
    });
    expect(first().voicing!.pitches!.at(-1)).toBe(before.at(-1)! + 2);
    expect(view.song.past).toHaveLength(steps + 1);
    // The lowest voice goes up until it would meet the one above.
    for (let step = 0; step < 40; step++)
      view.act(() => {
        up(rows().at(-1)!).click();
      });
    const now = first().voicing!.pitches!;
    expect(new Set(now).size).toBe(now.length);
  });

  it('sets the loudness of the chord, and of one note of it', () => {
    const { view, first } = panel();
    view.set('slider', 'Loudness of this chord', '55', 'input');
    expect(first().velocity).toBe(55);
    const [top] = view.by.getAllByRole('slider', { name: /^Loudness of [A-G]/ });
    view.set('slider', top!.getAttribute('aria-label')!, '99', 'input');
    expect(first().velocities!.at(-1)).toBe(99);
    expect(
      first()
        .velocities!.slice(0, -1)
        .every((velocity) => velocity === 55),
    ).toBe(true);
  });

  it('gives what is heard to a part that accompanies', () => {
    const { view } = panel();
    const given = jest.spyOn(view.fixture.debugElement.injector.get(HarmonyDesk), 'giveTo');
    const keys = SMALL.score.parts.find(({ role }) => role === 'comping')!;
    view.click('button', keys.name);
    expect(given).toHaveBeenCalledWith(keys.id);
  });
});
