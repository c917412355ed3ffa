import { ComponentFixture, TestBed } from '@angular/core/testing';
import { readChord } from '@fendro/core/theory/read-chord';
import { scoreWith } from '@fendro/core/testing/scores';
import { ChordSymbol } from './chord-symbol';
import { shapeOf } from './note-shape';
import { Sentence } from './sentence';
import { sayTake } from './spoken';

const chordOf = (text: string) => {
  const reading = readChord(text);
  return reading.ok ? reading.chord : null;
};

describe('a chord symbol', () => {
  it.each([
    ['Ebm7b5/Gb', 'E♭m7♭5/G♭'],
    ['F#maj9', 'F♯maj9'],
    ['N.C.', 'N.C.'],
  ])('prints %s as %s', async (typed, printed) => {
    const fixture = TestBed.createComponent(ChordSymbol);
    fixture.componentRef.setInput('chord', chordOf(typed));
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).textContent).toBe(printed);
  });
});

describe('a sentence', () => {
  let fixture: ComponentFixture<Sentence>;
  const said: string[] = [];
  const word = (): HTMLElement =>
    (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('[role="spinbutton"]')!;
  const press = (key: string) =>
    word().dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));

  beforeEach(async () => {
    said.length = 0;
    fixture = TestBed.createComponent(Sentence);
    fixture.componentRef.setInput('words', [{ id: 'busyness', label: 'Busyness', text: 'sparse', usual: false }]);
    fixture.componentInstance.stepped.subscribe(({ id, by }) => said.push(`${id} ${by}`));
    fixture.componentInstance.returned.subscribe((id) => said.push(`${id} back`));
    fixture.componentInstance.opened.subscribe((id) => said.push(`${id} open`));
    await fixture.whenStable();
  });

  it('tells a screen reader what each word sets and says', () => {
    expect(word().getAttribute('aria-label')).toBe('Busyness');
    expect(word().getAttribute('aria-valuetext')).toBe('sparse');
  });

  it('steps, returns and opens by keys, and lets others pass', () => {
    for (const key of ['ArrowUp', 'ArrowDown', 'Backspace', 'Enter', 'x']) press(key);
    expect(said).toEqual(['busyness 1', 'busyness -1', 'busyness back', 'busyness open']);
  });
});

describe('what is said of a take', () => {
  const { takes } = scoreWith(1, 0);
  const key = { tonic: 0, scale: 'major' };
  it('names its place, verdict, notes and range', () => {
    const take = Object.values(takes).find((candidate) => candidate.of === 'part' && candidate.part === 'part-1')!;
    expect(sayTake(take, 3, 8, 'kept', key, false)).toMatch(/^Take 3 of 8, kept, \d+ notes, [A-G].?\d to [A-G].?\d$/);
    expect(sayTake(take, 1, 8, null, key, true)).toMatch(/^Take 1 of 8, \d+ notes$/);
  });

  it('reads a progression out', () => {
    const take = Object.values(takes).find((candidate) => candidate.of === 'harmony')!;
    expect(sayTake(take, 1, 1, null, key, false)).toMatch(/^Take 1 of 1, [A-G]/);
  });

  it('gives drums dots and neighbours different shapes', () => {
    expect(shapeOf(3, true)).toBe('dot');
    expect(new Set([0, 1, 2, 3].map((colour) => shapeOf(colour, false))).size).toBe(4);
  });
});
