import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { pitchOfDegree } from '@fendro/core/patterns/degrees';
import * as edits from '@fendro/core/patterns/pattern-edits';
import { boundsOf, STRIPS, type ChordSpan, type DrawnPattern, type StripName } from '@fendro/core/song/schema';
import type { Key } from '@fendro/core/theory/key';
import { clamp, type MidiNote, type Ticks } from '@fendro/core/theory/units';
import { PatternDesk } from '../../desks/pattern-desk';
import type { StepValue } from '../../ui/step-geometry';
import { StepStrip, type DrawnStep } from '../../ui/step-strip';
import { StepCount } from './step-count';
import { StepDetails } from './step-details';

const NAMES: Readonly<Record<StripName, string>> = {
  degree: 'Note',
  loudness: 'Loudness',
  length: 'Length',
  likelihood: 'Likelihood',
  slide: 'Slide',
  strikes: 'Strokes',
};
/** What a strip's values are counted in. */
const UNITS: Readonly<Record<StripName, string>> = {
  degree: '',
  loudness: '',
  length: ' %',
  likelihood: ' %',
  slide: ' %',
  strikes: '',
};
/** Degrees that are shown at least, under and over what is drawn. */
const AROUND = 2;
const LEAST_SHOWN = 8;
/** Lengths beyond these are seldom wanted. */
const USUAL_LENGTH = 200;
/** By how much a key changes a value. */
const STEPS: Readonly<Record<StripName, number>> = {
  degree: 1,
  loudness: 4,
  length: 5,
  likelihood: 5,
  slide: 5,
  strikes: 1,
};

/** The strips of a drawn pattern, one below the other, and what the step in focus says exactly. */
@Component({
  selector: 'fd-drawn-strips',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, MatTooltip, StepCount, StepDetails, StepStrip],
  template: `
    @for (name of names; track name) {
      <div class="row" role="group" [attr.aria-label]="labels[name]">
        <div class="names">
          <span class="name">{{ labels[name] }}</span>
          <fd-step-count [of]="labels[name]" [count]="strip(name).values.length" (resized)="resize(name, $event)" />
          <button
            matIconButton
            class="small"
            [attr.aria-label]="labels[name] + ': by chance'"
            [matTooltip]="strip(name).still ? 'Held: let it go first' : 'Let chance draw this strip'"
            [disabled]="strip(name).still"
            (click)="desk.roll(name)"
          >
            <mat-icon svgIcon="shuffle" />
          </button>
          <button
            matButton
            class="small hold"
            [attr.aria-pressed]="strip(name).still"
            [attr.aria-label]="'Hold ' + labels[name].toLowerCase()"
            matTooltip="Held strips stay as they are when chance draws"
            (click)="edit('hold a strip', holdStrip(name))"
          >
            Hold
          </button>
        </div>
        <fd-step-strip
          [label]="labels[name]"
          [values]="strip(name).values"
          [low]="shown(name).low"
          [high]="shown(name).high"
          [rate]="pattern().rate"
          [length]="length()"
          [bar]="bar()"
          [scale]="scale()"
          [height]="name === 'degree' ? 64 : 28"
          [look]="name === 'degree' ? 'line' : 'bar'"
          [colour]="colour()"
          [range]="strip(name)"
          [held]="strip(name).held"
          [still]="strip(name).still"
          [ties]="name === 'degree' ? pattern().ties : none"
          [others]="name === 'degree' ? pattern().others : none"
          [inWords]="wordsOf(name)"
          [at]="name === focus() ? at() : 0"
          (atChange)="go(name, $event)"
          (focused)="focus.set(name)"
          (drawn)="draw(name, $event)"
          (stepped)="step(name, $event)"
          (struck)="strike(name, $event)"
        />
      </div>
    }
    <fd-step-details
      [name]="focus()"
      [label]="labels[focus()]"
      [step]="at()"
      [pattern]="pattern()"
      [words]="wordsOf(focus())"
      (changed)="edit($event.name, $event.change, $event.kind)"
    />
  `,
  styleUrl: './pattern-rows.scss',
})
export class DrawnStrips {
  protected readonly desk = inject(PatternDesk);
  readonly pattern = input.required<DrawnPattern>();
  readonly length = input.required<Ticks>();
  readonly bar = input.required<Ticks>();
  /** Px of a tick. */
  readonly scale = input.required<number>();
  readonly colour = input.required<string>();
  readonly key = input.required<Key>();
  /** The chord that the section begins with; undefined where there is none. */
  readonly first = input.required<ChordSpan | undefined>();
  readonly sayPitch = input.required<(pitch: MidiNote) => string>();
  protected readonly names = STRIPS;
  protected readonly labels = NAMES;
  protected readonly none = [];
  /** The strip and the step that were gone to last. */
  protected readonly focus = signal<StripName>('degree');
  private readonly wished = signal(0);
  protected readonly at = computed(() => clamp(this.wished(), 0, this.strip(this.focus()).values.length - 1));

  protected strip(name: StripName) {
    return this.pattern().strips[name];
  }

  protected go(name: StripName, step: number): void {
    this.focus.set(name);
    this.wished.set(step);
  }

  /** What stretch of its values a strip shows: degrees around what is drawn, all else whole. */
  protected shown(name: StripName): { readonly low: number; readonly high: number } {
    const { degrees, others } = this.pattern();
    const bounds = boundsOf(name, degrees);
    const { values, low, high } = this.strip(name);
    if (name === 'length')
      return { low: 0, high: Math.max(...values, high) > USUAL_LENGTH ? bounds.high : USUAL_LENGTH };
    if (name !== 'degree') return { low: Math.min(bounds.low, 0), high: bounds.high };
    const all = [...values, low, high, ...others.map(({ value }) => value)];
    const least = Math.max(bounds.low, Math.min(...all) - AROUND);
    return { low: least, high: Math.min(bounds.high, Math.max(Math.max(...all) + AROUND, least + LEAST_SHOWN)) };
  }

  protected wordsOf(name: StripName): (value: StepValue, step: number) => string {
    return (value, step) => {
      if (value === null) return '';
      if (name !== 'degree') return `${value}${UNITS[name]}`;
      if (this.pattern().ties.includes(step)) return 'tied to the one before';
      return this.degreeWords(value);
    };
  }

  /** A degree with the note that it is over the first chord: “degree 3, G4”. */
  private degreeWords(value: number): string {
    const pattern = this.pattern();
    const pitch = pitchOfDegree(value, pattern, this.first(), this.key());
    const name = pitch === null ? 'silent' : this.sayPitch()(pitch);
    return pattern.degrees === 'fixed' ? name : `degree ${value + 1}, ${name}`;
  }

  protected edit(name: string, change: (pattern: DrawnPattern) => DrawnPattern, kind?: string): void {
    this.desk.edit(name, (pattern) => (pattern.of === 'drawn' ? change(pattern) : pattern), kind);
  }

  protected readonly holdStrip = (name: StripName) => (pattern: DrawnPattern) => edits.withStillStrip(pattern, name);

  protected resize(name: StripName, by: number): void {
    this.edit('change a strip’s length', (pattern) =>
      edits.withSteps(pattern, name, pattern.strips[name].values.length + by),
    );
  }

  protected draw(name: StripName, steps: readonly DrawnStep[]): void {
    this.edit(`draw ${NAMES[name].toLowerCase()}`, (pattern) =>
      steps.reduce(
        (drawn, { step, value }) => (value === null ? drawn : edits.withValue(drawn, name, step, value)),
        pattern,
      ),
    );
  }

  protected step(name: StripName, { step, by }: { readonly step: number; readonly by: number }): void {
    this.edit(
      `draw ${NAMES[name].toLowerCase()}`,
      (pattern) => edits.withValue(pattern, name, step, (pattern.strips[name].values[step] ?? 0) + by * STEPS[name]),
      `draw ${name} ${step}`,
    );
  }

  protected strike(name: StripName, { step, key }: { readonly step: number; readonly key: string }): void {
    if (key === 'h') this.edit('hold a step', (pattern) => edits.withHeldStep(pattern, name, step));
    else if (key === 't' && name === 'degree') this.edit('tie a step', (pattern) => edits.withTie(pattern, step));
    else if (key === 'r' && !this.strip(name).still) this.desk.roll(name);
    else if (key === '+' || key === '-') this.resize(name, key === '+' ? 1 : -1);
  }
}
