import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { fireEvent } from '@testing-library/dom';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { chosenId } from '@fendro/core/song/section';
import type { PartTake, Pattern } from '@fendro/core/song/schema';
import { logPasses, logWhatSounds } from '../../store/effects';
import { selectHeard } from '../../store/selectors';
import { Shelf } from '../../store/shelf';
import { SessionActions } from '../../store/session';
import { SongActions, TakeActions } from '../../store/song.actions';
import { ChordDesk } from '../../desks/chord-desk';
import { CatchDesk } from '../../desks/catch-desk';
import { HoldDesk } from '../../desks/hold-desk';
import { LogbookDesk } from '../../desks/logbook-desk';
import { NotesDesk } from '../../desks/notes-desk';
import { PatternDesk } from '../../desks/pattern-desk';
import { TakeEdits } from '../../desks/take-edits';
import { TakeView } from '../../desks/take-view';
import { TreatDesk } from '../../desks/treat-desk';
import { SMALL, viewOf } from '../../testing/view';
import { PatternsDrawer } from './patterns-drawer';

const melody = SMALL.score.parts.find(({ role }) => role === 'melody')!;
const bass = SMALL.score.parts.find(({ role }) => role === 'bass')!;
const drums = SMALL.score.parts.find(({ role }) => role === 'drums')!;
const [verse] = SMALL.score.sections;

function opened(part = bass) {
  const view = viewOf(PatternsDrawer, {
    keys: true,
    effects: [provideEffects({ logWhatSounds, logPasses })],
    done: [SessionActions.lineFocused({ line: part.id }), SessionActions.drawerToggled({ drawer: 'patterns' })],
  });
  const take = (): PartTake => {
    const heard = view.store.selectSignal(selectHeard)();
    return partTake(view.song.takes, soundingId(view.score.sections[0]!, part.id, heard))!;
  };
  const drawn = () => {
    const { pattern } = take();
    if (pattern?.of !== 'drawn') throw new Error('no drawn pattern');
    return pattern;
  };
  const strip = (name: string) => view.by.getByRole('slider', { name });
  const steps = () => view.song.past.map(({ name }) => name);
  return { view, take, drawn, strip, steps };
}

/** The pattern of some kind that a part goes on by. */
function of<Kind extends Pattern['of']>(take: PartTake, kind: Kind): Extract<Pattern, { of: Kind }> {
  const { pattern } = take;
  if (pattern?.of !== kind) throw new Error(`not ${kind}`);
  return pattern as Extract<Pattern, { of: Kind }>;
}

describe('the patterns', () => {
  it('begin in place of what a part plays, in one step that can be undone', () => {
    const { view, take, steps } = opened();
    const before = take();
    view.click('button', 'Draw a pattern');
    expect(of(take(), 'drawn').degrees).toBe('root');
    expect(take().notes.length).toBeGreaterThan(8);
    expect(TestBed.inject(TakeView).nameOf(take().id)).toBe('take 3');
    expect(steps()).toEqual(['draw a pattern']);
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(take()).toBe(before);
  });

  it('are drawn by keys: tied, stepped, held, longer and shorter; keys held down are one step', () => {
    const { view, drawn, strip, steps } = opened();
    view.click('button', 'Draw a pattern');
    const note = strip('Note');
    view.press(note, 'ArrowRight');
    view.press(note, 't');
    expect(drawn().ties).toEqual([1]);
    expect(note.getAttribute('aria-valuetext')).toBe('Step 2 of 4: tied to the one before');
    view.press(note, 'ArrowRight');
    view.press(note, 'ArrowUp');
    view.press(note, 'ArrowUp');
    expect(drawn().strips.degree.values).toEqual([0, 0, 2, 0]);
    expect(steps()).toEqual(['draw a pattern', 'tie a step', 'draw note']);
    view.press(note, 'h');
    expect(drawn().strips.degree.held).toEqual([2]);
    expect(note.getAttribute('aria-valuetext')).toMatch(/^Step 3 of 4: degree 3, \w\d, held$/);
    view.press(note, '-');
    expect(drawn().strips.degree.values).toEqual([0, 0, 2]);
    view.press(note, '+');
    expect(drawn().strips.degree.values).toEqual([0, 0, 2, 0]);
    // Steps on the way are not listed beside it, until one was kept.
    expect(
      TestBed.inject(TakeView)
        .shown()
        .filter(({ origin }) => origin.how === 'drawn'),
    ).toHaveLength(1);
  });

  it('are drawn by dragging over steps, in one step', () => {
    const { view, drawn, strip, steps } = opened(melody);
    view.click('button', 'Draw a pattern');
    const loudness = strip('Loudness');
    for (let more = 0; more < 3; more++) view.click('button', 'Loudness: a step more');
    Object.assign(loudness, { setPointerCapture: () => undefined });
    const at = (step: number, y: number) => ({ clientX: step * 28 + 10, clientY: y, pointerId: 1 });
    // A step is 28 px wide, and the strip as high.
    view.act(() => fireEvent(loudness, pointer('pointerdown', at(0, 3))));
    view.act(() => fireEvent(loudness, pointer('pointermove', at(1, 14))));
    view.act(() => fireEvent(loudness, pointer('pointermove', at(2, 25))));
    view.act(() => fireEvent(loudness, pointer('pointerup', at(2, 25))));
    const [first, second, third, fourth] = drawn().strips.loudness.values;
    expect([first, third, fourth]).toEqual([127, 1, melody.brief.loudness]);
    expect(second).toBeGreaterThan(50);
    expect(steps().filter((name) => name === 'draw loudness')).toHaveLength(1);
  });

  it('are rolled inside their ranges, but for what is held', () => {
    const { view, drawn, strip } = opened(melody);
    view.click('button', 'Draw a pattern');
    view.press(strip('Note'), 'h');
    view.set('spinbutton', 'The most that chance draws of note', '12');
    const before = drawn();
    view.act(() => {
      TestBed.inject(PatternDesk).roll();
    });
    const { degree, loudness } = drawn().strips;
    expect(degree.values[0]).toBe(before.strips.degree.values[0]);
    expect(degree.high).toBe(11);
    expect(degree.values.every((value) => value >= 0 && value <= 11)).toBe(true);
    expect(loudness).toEqual(before.strips.loudness);
    expect(drawn().seed).not.toBe(before.seed);
    const button = view.by.getByRole<HTMLButtonElement>('button', { name: 'Loudness: by chance' });
    expect(button.disabled).toBe(true);
  });

  it('give a step other notes with their shares, and take them away', () => {
    const { view, drawn } = opened(melody);
    view.click('button', 'Draw a pattern');
    view.click('button', 'Or another note');
    expect(drawn().others).toEqual([{ step: 0, value: 2, share: 30 }]);
    view.set('spinbutton', 'How often other note 1 is taken', '45');
    expect(drawn().others[0]!.share).toBe(45);
    view.click('button', 'Take other note 1 away');
    expect(drawn().others).toEqual([]);
  });

  it('step words of their sentence, and open exact choices', () => {
    const { view, drawn, steps } = opened();
    view.click('button', 'Draw a pattern');
    const word = view.by.getByRole('spinbutton', { name: 'Redrawn by chance' });
    view.press(word, 'ArrowUp');
    view.press(word, 'ArrowUp');
    expect(drawn().redraw).toBe(2);
    expect(view.by.getByRole('spinbutton', { name: 'Redrawn by chance' }).textContent).toBe('redrawn every 2 bars');
    expect(steps()).toEqual(['draw a pattern', 'set redrawn by chance']);
    view.press(view.by.getByRole('spinbutton', { name: 'Redrawn by chance' }), 'Backspace');
    expect(drawn().redraw).toBeNull();
    view.act(() => fireEvent.click(view.by.getByRole('spinbutton', { name: 'Length of a step' })));
    view.set('combobox', 'Length of a step', '120');
    expect(drawn().rate).toBe(120);
  });

  it('lose no key that comes before the page was drawn again', () => {
    const { view, take, drawn, strip } = opened(melody);
    const quickly = (target: Element, ...keys: readonly string[]): void => {
      view.act(() => keys.forEach((key) => fireEvent.keyDown(target, { key })));
    };
    view.click('button', 'Draw a pattern');
    quickly(view.by.getByRole('spinbutton', { name: 'Redrawn by chance' }), 'ArrowUp', 'ArrowUp', 'ArrowUp');
    expect(drawn().redraw).toBe(3);
    const [before] = drawn().strips.degree.values;
    quickly(strip('Note'), 'ArrowUp', 'ArrowUp', 'ArrowUp');
    expect(drawn().strips.degree.values[0]).toBe(before! + 3);
    view.act(() => {
      TestBed.inject(PatternDesk).begin('loops');
    });
    quickly(strip('Loop 1'), 'ArrowRight', 'Enter', 'ArrowUp', 'ArrowUp');
    expect(of(take(), 'loops').loops[0]!.notches).toContainEqual({ step: 1, degree: 2 });
    quickly(strip('Loop 1'), 'Enter', 'Enter', 'ArrowUp');
    expect(of(take(), 'loops').loops[0]!.notches).toContainEqual({ step: 1, degree: 1 });
  });

  it('set loops against each other, and say when they meet', () => {
    const { view, take, strip } = opened(melody);
    view.click('button', 'Set loops against each other');
    expect(view.page.textContent).toContain('All meet again after 13.13 bars.');
    const loop = strip('Loop 1');
    view.press(loop, 'ArrowRight');
    view.press(loop, 'Enter');
    view.press(loop, 'ArrowUp');
    expect(of(take(), 'loops').loops[0]!.notches).toEqual([
      { step: 0, degree: 0 },
      { step: 1, degree: 1 },
    ]);
    view.press(loop, 'Delete');
    view.click('button', 'Loop 1: a step more');
    expect(of(take(), 'loops').loops[0]).toMatchObject({ steps: 4, notches: [{ step: 0, degree: 0 }] });
    view.click('button', 'Another loop');
    expect(of(take(), 'loops').loops).toHaveLength(4);
    view.act(() => fireEvent.focus(strip('Loop 4')));
    view.set('combobox', 'Chance of loop 4', '50');
    expect(of(take(), 'loops').loops[3]!.chance).toBe(50);
    view.click('button', 'Take loop 4 away');
    expect(of(take(), 'loops').loops).toHaveLength(3);
  });

  it('take notches away that are pressed, and move those that are dragged up or down', () => {
    const { view, take, strip } = opened(melody);
    view.click('button', 'Set loops against each other');
    const loop = strip('Loop 1');
    Object.assign(loop, { setPointerCapture: () => undefined });
    const at = (step: number, y: number) => ({ clientX: step * 28 + 10, clientY: y, pointerId: 1 });
    const drag = (from: ReturnType<typeof at>, to: ReturnType<typeof at>): void => {
      view.act(() => fireEvent(loop, pointer('pointerdown', from)));
      view.act(() => fireEvent(loop, pointer('pointermove', to)));
      view.act(() => fireEvent(loop, pointer('pointerup', to)));
    };
    const notches = () => of(take(), 'loops').loops[0]!.notches.map(({ step, degree }) => [step, degree]);
    drag(at(2, 30), at(2, 30));
    expect(notches()).toHaveLength(2);
    const [, [, drawn]] = notches() as [number[], number[]];
    drag(at(2, 30), at(1, 6));
    const [, [step, moved]] = notches() as [number[], number[]];
    expect(step).toBe(2);
    expect(moved!).toBeGreaterThan(drawn!);
    drag(at(2, 8), at(2, 8));
    expect(notches()).toEqual([[0, 0]]);
    // The last notch stays.
    drag(at(0, 8), at(0, 8));
    expect(notches()).toEqual([[0, 0]]);
  });

  it('are saved to the shelf, and taken from there for another part in its own reach', () => {
    const { view, take } = opened(melody);
    view.click('button', 'Set loops against each other');
    const loops = of(take(), 'loops');
    view.click('button', 'Shelf');
    view.click('button', /^Save to the shelf/);
    view.set('textbox', 'Name of the pattern', 'Clockwork');
    view.act(() =>
      fireEvent.submit(view.by.getByRole<HTMLInputElement>('textbox', { name: 'Name of the pattern' }).form!),
    );
    const [kept] = TestBed.inject(Shelf).contents().patterns;
    expect(kept).toMatchObject({ name: 'Clockwork', role: 'melody', pattern: loops });
    view.act(() => {
      view.store.dispatch(SessionActions.lineFocused({ line: bass.id }));
    });
    view.set('combobox', 'Take a pattern', kept!.id);
    const heard = view.store.selectSignal(selectHeard)();
    const low = partTake(view.song.takes, soundingId(view.score.sections[0]!, bass.id, heard))!;
    expect(of(low, 'loops').loops).toEqual(loops.loops);
    expect(of(low, 'loops').low).toBe(bass.brief.low);
    // Drums have nothing to do with it.
    view.act(() => {
      view.store.dispatch(SessionActions.lineFocused({ line: drums.id }));
    });
    expect(view.by.getByText('No pattern on the shelf yet')).toBeTruthy();
  });

  it('let drums wander over their kit', () => {
    const { view, take } = opened(drums);
    view.click('button', 'Let notes wander');
    expect(of(take(), 'wandering').tones).toBe('kit');
    expect(new Set(take().notes.map(({ pitch }) => pitch)).size).toBeGreaterThan(2);
  });
});

const pointer = (type: string, init: MouseEventInit & { readonly pointerId: number }): Event =>
  Object.assign(new MouseEvent(type, { bubbles: true, ...init }), { pointerId: init.pointerId });

describe('catching', () => {
  it('keeps the pass that sounded, note for note, while the pattern goes on', () => {
    const { view, take } = opened(melody);
    view.click('button', 'Draw a pattern');
    const word = view.by.getByRole('spinbutton', { name: 'Redrawn by chance' });
    view.press(word, 'ArrowUp');
    const going = take();
    view.act(() => {
      view.store.dispatch(SessionActions.passBegun({ section: verse!.id, pass: 3 }));
    });
    expect(view.page.textContent).toContain('pass 4');
    view.act(() => {
      TestBed.inject(CatchDesk).catchLast();
    });
    expect(take()).toBe(going);
    const caught = Object.values(view.song.takes).at(-1) as PartTake;
    expect(caught.origin).toMatchObject({ how: 'caught', from: 'pass 4', parents: [going.id] });
    expect(caught.pattern).toBeUndefined();
    expect(caught.notes).not.toEqual(going.notes);
    expect(view.score.remarks[caught.id]).toEqual({ verdict: 'kept' });
    expect(TestBed.inject(TakeView).shown()).toContain(caught);
    expect(TestBed.inject(TakeView).captionOf(caught)).toBe('pass 4 of take 3');
  });

  it('lets the pass stand still whose bars are held: what is held are the notes that sounded', () => {
    const { view, take } = opened(melody);
    view.click('button', 'Draw a pattern');
    view.press(view.by.getByRole('spinbutton', { name: 'Redrawn by chance' }), 'ArrowUp');
    view.act(() => {
      view.store.dispatch(SessionActions.passBegun({ section: verse!.id, pass: 5 }));
    });
    const going = take();
    const sounded = TestBed.inject(TakeEdits)
      .notes()
      .map(({ start, pitch }) => [start, pitch]);
    view.act(() => {
      TestBed.inject(HoldDesk).toggle();
    });
    expect(take().pattern).toBeUndefined();
    expect(take().origin).toMatchObject({ how: 'caught', from: 'pass 6', parents: [going.id] });
    expect(take().notes.map(({ start, pitch }) => [start, pitch])).toEqual(sounded);
    expect(view.score.sections[0]!.holds[melody.id]).toMatchObject([{ take: take().id, bars: [0] }]);
    // The pattern is the chosen take still, and the way back to it is Escape.
    expect(chosenId(view.score.sections[0]!, melody.id)).toBe(going.id);
  });

  it('holds the notes that are picked, in the pass that stands still then, and once', () => {
    const { view, take } = opened(melody);
    view.click('button', 'Draw a pattern');
    const [notes, hold, going] = [TestBed.inject(NotesDesk), TestBed.inject(HoldDesk), take()];
    const ids = TestBed.inject(TakeEdits)
      .notes()
      .slice(1, 3)
      .map(({ id }) => id);
    view.act(() => {
      notes.pickAll(ids);
    });
    view.act(() => {
      hold.toggle();
    });
    const standing = take();
    expect(standing.origin).toMatchObject({ how: 'caught', parents: [going.id] });
    expect(view.score.sections[0]!.holds[melody.id]).toMatchObject([{ take: standing.id, bars: [], notes: ids }]);
    expect(notes.ids()).toEqual(ids);
    // The same pass stands still again: it is the take that it was.
    view.act(() => {
      view.store.dispatch(TakeActions.heard({ take: going.id, section: verse!.id, line: melody.id }));
    });
    view.act(() => {
      hold.toggle();
    });
    expect(take().id).toBe(standing.id);
  });

  it('holds notes as they are before the part’s treatments, which go on treating them', () => {
    const { view, take } = opened(melody);
    view.click('button', 'Draw a pattern');
    const sounded = TestBed.inject(TakeEdits)
      .notes()
      .map(({ start, pitch }) => [start, pitch]);
    view.act(() => {
      TestBed.inject(TreatDesk).add('octave');
    });
    view.act(() => {
      TestBed.inject(HoldDesk).toggle();
    });
    expect(take().treated).toBeUndefined();
    expect(take().notes.map(({ start, pitch }) => [start, pitch])).toEqual(sounded);
    // Caught, they are as they were heard.
    view.act(() => {
      TestBed.inject(CatchDesk).catchLast();
    });
    const caught = Object.values(view.song.takes).at(-1) as PartTake;
    expect(caught.treated).toBe(true);
    expect(caught.notes.map(({ start, pitch }) => [start, pitch - 12])).toEqual(sounded);
  });

  it('finds a pass of some time ago in the logbook, over the chords of that moment', () => {
    const { view, take } = opened(melody);
    view.click('button', 'Draw a pattern');
    view.press(view.by.getByRole('spinbutton', { name: 'Redrawn by chance' }), 'ArrowUp');
    const heard = (pass: number): void => {
      view.act(() => {
        view.store.dispatch(SessionActions.passBegun({ section: verse!.id, pass }));
      });
    };
    for (const pass of [0, 1, 2]) heard(pass);
    const going = take();
    view.act(() => {
      TestBed.inject(CatchDesk).catchLast();
    });
    const third = Object.values(view.song.takes).at(-1) as PartTake;
    view.act(() => {
      TestBed.inject(ChordDesk).transpose(5);
    });
    const log = TestBed.inject(LogbookDesk);
    const entry = log.found().find(({ pass, take: of }) => pass === 2 && of.id === going.id)!;
    expect(entry.what).toBe('take 3: pattern, pass 3');
    expect(log.canCatch(entry)).toBe(true);
    view.act(() => {
      log.hear(entry);
    });
    // What was caught then is what is heard now: the same take, over the chords of then.
    expect(take().id).toBe(third.id);
    expect(take().notes).toEqual(third.notes);
  });
});
