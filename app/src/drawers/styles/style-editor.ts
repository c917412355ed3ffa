import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { ENDING_NAMES } from '@fendro/core/compose/ending';
import { COLOURINGS } from '@fendro/core/song/schema';
import { ENDINGS, type Style } from '@fendro/core/song/style';
import { bandOf } from '@fendro/core/styles/band';
import { checkStyle } from '@fendro/core/styles/style-file';
import { drummedText, readDrummed, readTimed, timedText } from '@fendro/core/styles/style-text';
import { METRES, metreName } from '@fendro/core/theory/metre';
import { selectScore } from '../../store/selectors';
import { readNumber } from '../../ui/read-number';

/** What is typed, as text, until it is read. */
interface Typed {
  readonly name: string;
  readonly family: string;
  readonly moods: string;
  readonly low: string;
  readonly usual: string;
  readonly high: string;
  readonly swing: string;
  readonly adventure: string;
  readonly chords: string;
  readonly bass: string;
  readonly grooves: string;
  readonly fills: string;
}

/** What is no number stays none, and the check says so at its place. */
const numberIn = (text: string): number => readNumber(text) ?? Number.NaN;

const asTyped = (style: Style): Typed => ({
  name: style.name,
  family: style.family,
  moods: style.moods.join(', '),
  low: String(style.tempo.low),
  usual: String(style.tempo.usual),
  high: String(style.tempo.high),
  swing: String(style.swing),
  adventure: String(style.harmony.adventure),
  chords: timedText(style.comping),
  bass: timedText(style.bass),
  grooves: drummedText(style.grooves),
  fills: drummedText(style.fills),
});

/** A style of one's own: its facts and figures, read and checked when it is saved. */
@Component({
  selector: 'fd-style-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './style-editor.html',
  styleUrl: './style-editor.scss',
})
export class StyleEditor {
  private readonly score = inject(Store).selectSignal(selectScore);
  readonly style = input.required<Style>();
  readonly isNew = input(false);
  readonly saved = output<Style>();
  readonly left = output();
  protected readonly typed = linkedSignal(() => asTyped(this.style()));
  protected readonly ending = linkedSignal(() => this.style().ending);
  protected readonly pace = linkedSignal(() => this.style().harmony.pace);
  protected readonly colouring = linkedSignal(() => this.style().harmony.colouring);
  protected readonly metre = linkedSignal(() => this.style().metres[0] ?? '4/4');
  protected readonly band = linkedSignal(() => this.style().band);
  protected readonly bandText = computed(() =>
    this.band()
      .map(({ name }) => name)
      .join(', '),
  );
  protected readonly problems = signal<readonly string[]>([]);
  protected readonly endings = ENDINGS.map((ending) => ({ ending, name: ENDING_NAMES[ending].name }));
  protected readonly metres = METRES.map(metreName);
  protected readonly colourings = COLOURINGS;
  protected readonly paces = [
    { pace: 0.5, name: 'one chord for two bars' },
    { pace: 1, name: 'one chord a bar' },
    { pace: 2, name: 'two chords a bar' },
  ] as const;
  protected readonly figures: readonly {
    readonly field: 'chords' | 'bass' | 'grooves' | 'fills';
    readonly label: string;
    readonly help: string;
  }[] = [
    {
      field: 'chords',
      label: 'Chords',
      help: 'X accented, x struck, 1–9 in 10–90 % of cases, . never; @ how long, in %',
    },
    {
      field: 'bass',
      label: 'Bass',
      help: 'R root, F fifth, O octave, T third, A approach, W any, P pedal; small letters are likely',
    },
    { field: 'grooves', label: 'Grooves', help: 'drum and steps, drums parted by ;' },
    { field: 'fills', label: 'Fills', help: 'one bar each, towards the bar line' },
  ];

  protected set(change: Partial<Typed>): void {
    this.typed.update((typed) => ({ ...typed, ...change }));
  }

  protected setFigure(field: 'chords' | 'bass' | 'grooves' | 'fills', text: string): void {
    this.set({ [field]: text });
  }

  /** The parts of the open song, as they are set up. */
  protected takeBand(): void {
    const score = this.score();
    if (score) this.band.set(bandOf(score));
  }

  protected save(event: Event): void {
    event.preventDefault();
    const typed = this.typed();
    const chords = readTimed(typed.chords, 'Chords');
    const bass = readTimed(typed.bass, 'Bass');
    const grooves = readDrummed(typed.grooves, 'Grooves');
    const fills = readDrummed(typed.fills, 'Fills');
    const unread = [chords, bass, grooves, fills].flatMap((read) => (read.ok ? [] : [read.problem]));
    this.problems.set(unread);
    if (!chords.ok || !bass.ok || !grooves.ok || !fills.ok) return;
    const { metres, harmony } = this.style();
    const checked = checkStyle({
      ...this.style(),
      name: typed.name,
      family: typed.family,
      moods: typed.moods
        .split(',')
        .map((mood) => mood.trim())
        .filter((mood) => mood !== ''),
      tempo: { low: numberIn(typed.low), usual: numberIn(typed.usual), high: numberIn(typed.high) },
      swing: numberIn(typed.swing),
      metres: [this.metre(), ...metres.filter((metre) => metre !== this.metre())],
      harmony: { ...harmony, adventure: numberIn(typed.adventure), pace: this.pace(), colouring: this.colouring() },
      comping: chords.figures,
      bass: bass.figures,
      grooves: grooves.figures,
      fills: fills.figures,
      ending: this.ending(),
      band: this.band(),
    });
    if (checked.ok) this.saved.emit(checked.style);
    else this.problems.set(checked.problems);
  }
}
