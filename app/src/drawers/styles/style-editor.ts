import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  effect,
} from '@angular/core';
import { choicesOf } from '../../ui/fields/choice-field';
import { METRE_CHOICES } from '../../ui/ground-choices';
import { ReactiveFormsModule, FormControl, FormGroup } from '@angular/forms';
import { MatInput } from '@angular/material/input';
import { MatFormField } from '@angular/material/form-field';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { ENDING_NAMES } from '@fendro/core/compose/ending-names';
import { COLOURINGS } from '@fendro/core/song/schema';
import { ENDINGS, type Style } from '@fendro/core/song/style';
import { bandOf } from '@fendro/core/styles/band';
import { checkStyle } from '@fendro/core/styles/style-file';
import {
  drummedText,
  formsText,
  ownChordsText,
  readDrummed,
  readForms,
  readOwnChords,
  readSung,
  readTimed,
  sungText,
  timedText,
} from '@fendro/core/styles/style-text';
import { selectScore } from '../../store/selectors';
import { readNumber } from '../../ui/read-number';

/** What is no number stays none, and the check says so at its place. */
const numberIn = (text: string): number =>
  readNumber(text, { least: Number.NEGATIVE_INFINITY, most: Number.POSITIVE_INFINITY, digits: 2 }) ?? Number.NaN;

/** What is empty is left out: the style has none of its own then. */
const orNone = <T extends object>(own: T): T | undefined => (Object.keys(own).length > 0 ? own : undefined);

const text = (): FormControl<string> => new FormControl('', { nonNullable: true });

/** A style of one's own: its facts and figures, read and checked when it is saved. */
@Component({
  selector: 'fd-style-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatCheckbox, MatFormField, MatInput, ReactiveFormsModule],
  templateUrl: './style-editor.html',
  styleUrl: './style-editor.scss',
})
export class StyleEditor {
  private readonly score = inject(Store).selectSignal(selectScore);
  readonly style = input.required<Style>();
  readonly isNew = input(false);
  readonly saved = output<Style>();
  readonly left = output();
  /** Everything as it is typed; it is read and checked when it is saved. */
  protected readonly form = new FormGroup({
    name: text(),
    family: text(),
    moods: text(),
    low: text(),
    usual: text(),
    high: text(),
    swing: text(),
    chords: text(),
    bass: text(),
    grooves: text(),
    fills: text(),
    melody: text(),
    forms: text(),
    ownChords: text(),
    loops: text(),
    leadingNote: new FormControl(false, { nonNullable: true }),
    metre: text(),
    ending: new FormControl<Style['ending']>('held', { nonNullable: true }),
    pace: new FormControl<Style['harmony']['pace']>(1, { nonNullable: true }),
    colouring: new FormControl<Style['harmony']['colouring']>('triads', { nonNullable: true }),
  });
  protected readonly band = linkedSignal(() => this.style().band);
  protected readonly bandText = computed(() =>
    this.band()
      .map(({ name }) => name)
      .join(', '),
  );
  protected readonly problems = signal<readonly string[]>([]);
  protected readonly endings = ENDINGS.map((ending) => ({ value: ending, text: ENDING_NAMES[ending].name }));
  protected readonly metres = METRE_CHOICES;
  protected readonly colourings = choicesOf(COLOURINGS);
  protected readonly paces = [
    { value: 0.5, text: 'one chord for two bars' },
    { value: 1, text: 'one chord a bar' },
    { value: 2, text: 'two chords a bar' },
  ] as const;
  protected readonly figures: readonly {
    readonly field: 'chords' | 'bass' | 'grooves' | 'fills' | 'melody' | 'forms' | 'ownChords';
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
    {
      field: 'melody',
      label: 'Melodies',
      help: 'beats parted by -, each cut into as many as it has signs: x struck, . goes on; none: the common ones',
    },
    { field: 'forms', label: 'Forms', help: 'a word of degrees for each bar, 2-5 two chords, 1/5 one of them' },
    { field: 'ownChords', label: 'Own chords', help: 'major or minor, a degree = its notes, as in minor 5 = 1 3 5 b7' },
  ];

  constructor() {
    effect(() => {
      const style = this.style();
      this.form.setValue({
        name: style.name,
        family: style.family,
        moods: style.moods.join(', '),
        low: String(style.tempo.low),
        usual: String(style.tempo.usual),
        high: String(style.tempo.high),
        swing: String(style.swing),
        chords: timedText(style.comping),
        bass: timedText(style.bass),
        grooves: drummedText(style.grooves),
        fills: drummedText(style.fills),
        melody: sungText(style.melody ?? []),
        forms: formsText(style.harmony.forms ?? []),
        ownChords: ownChordsText(style.harmony),
        loops: style.harmony.loops === undefined ? '' : String(style.harmony.loops),
        leadingNote: style.harmony.leadingNote ?? false,
        metre: style.metres[0] ?? '4/4',
        ending: style.ending,
        pace: style.harmony.pace,
        colouring: style.harmony.colouring,
      });
    });
  }

  /** The parts of the open song, as they are set up. */
  protected takeBand(): void {
    const score = this.score();
    if (score) this.band.set(bandOf(score));
  }

  protected save(event: Event): void {
    event.preventDefault();
    const typed = this.form.getRawValue();
    const chords = readTimed(typed.chords, 'Chords');
    const bass = readTimed(typed.bass, 'Bass');
    const grooves = readDrummed(typed.grooves, 'Grooves');
    const fills = readDrummed(typed.fills, 'Fills');
    const melody = readSung(typed.melody, 'Melodies');
    const forms = readForms(typed.forms, 'Forms');
    const own = readOwnChords(typed.ownChords, 'Own chords');
    const read = [chords, bass, grooves, fills, melody, forms, own];
    this.problems.set(read.flatMap((one) => (one.ok ? [] : [one.problem])));
    if (!chords.ok || !bass.ok || !grooves.ok || !fills.ok || !melody.ok || !forms.ok || !own.ok) return;
    const { metres, harmony } = this.style();
    const chordsOf = (wanted: 'major' | 'minor'): Record<string, string> | undefined =>
      orNone(
        Object.fromEntries(
          own.figures.flatMap(({ mode, degree, tones }) => (mode === wanted ? [[degree, tones]] : [])),
        ),
      );
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
      metres: [typed.metre, ...metres.filter((metre) => metre !== typed.metre)],
      harmony: {
        ...harmony,
        pace: typed.pace,
        colouring: typed.colouring,
        loops: typed.loops.trim() === '' ? undefined : numberIn(typed.loops),
        leadingNote: typed.leadingNote || undefined,
        forms: orNone(forms.figures),
        majorChords: chordsOf('major'),
        minorChords: chordsOf('minor'),
      },
      melody: orNone(melody.figures),
      comping: chords.figures,
      bass: bass.figures,
      grooves: grooves.figures,
      fills: fills.figures,
      ending: typed.ending,
      band: this.band(),
    });
    if (checked.ok) this.saved.emit(checked.style);
    else this.problems.set(checked.problems);
  }
}
