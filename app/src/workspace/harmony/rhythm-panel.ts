import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { ReactiveFormsModule, FormControl, FormGroup } from '@angular/forms';
import { MatInput } from '@angular/material/input';
import { MatFormField } from '@angular/material/form-field';
import { MatRadioButton, MatRadioGroup } from '@angular/material/radio';
import { SearchField } from '../../ui/fields/search-field';
import { SlideField } from '../../ui/fields/slide-field';
import { ChoiceField, type Choice, choicesOf } from '../../ui/fields/choice-field';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { draftRhythm } from '@fendro/core/compose/chord-rhythm';
import type { ChordSetting } from '@fendro/core/song/schema';
import {
  CHORD_RHYTHMS,
  chordRhythmOf,
  fullnessOf,
  isWrittenMetre,
  ownRhythmId,
  type ChordRhythm,
  type Fullness,
} from '@fendro/core/styles/chord-rhythms';
import { chordSymbol } from '@fendro/core/theory/chord';
import { barTicks, beatsOf, metreName } from '@fendro/core/theory/metre';
import { SIXTEENTH } from '@fendro/core/theory/units';
import { Playback } from '../../sound/playback';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { selectSong } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { Shelf } from '../../store/shelf';
import { ScoreActions } from '../../store/song.actions';
import { IdeaList, type Idea } from '../../ui/idea-list';
import { wordsIn } from '../../ui/words';

/** What a cell of a rhythm goes through when it is pressed. */
const CYCLE = ['.', 'x', 'X', '<', '~', ','] as const;
const SAID: Readonly<Record<string, string>> = {
  '.': 'sounds on',
  x: 'struck',
  X: 'accented',
  '<': 'takes the coming chord',
  '~': 'muted',
  ',': 'stops',
};

/** The rhythm of the section's chords, or of the chord in focus: picked, drawn by chance or written cell by cell. */
@Component({
  selector: 'fd-rhythm-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    IdeaList,
    MatButton,
    ChoiceField,
    SlideField,
    SearchField,
    MatRadioGroup,
    MatRadioButton,
    MatFormField,
    MatInput,
    ReactiveFormsModule,
  ],
  templateUrl: './rhythm-panel.html',
  styleUrl: './panels.scss',
})
export class RhythmPanel {
  private readonly store = inject(Store);
  protected readonly desk = inject(HarmonyDesk);
  private readonly shelf = inject(Shelf);
  private readonly playback = inject(Playback);
  private readonly song = this.store.selectSignal(selectSong);
  protected readonly query = signal('');
  protected readonly fullness = signal<Fullness | ''>('');
  /** Whether the rhythm is for the section or for the chord in focus. */
  protected readonly scope = signal<'section' | 'chord'>('section');
  protected readonly current = signal<string | null>(null);
  private readonly attempt = signal(0);
  protected readonly fullnesses: readonly Choice<Fullness | ''>[] = [
    { value: '', text: 'any' },
    ...choicesOf<Fullness>(['sparse', 'steady', 'busy']),
  ];
  protected readonly form = new FormGroup({ name: new FormControl('', { nonNullable: true }) });

  protected readonly chordName = computed(() => {
    const chord = this.desk.focused()?.chord;
    return chord ? chordSymbol(chord) : null;
  });

  private readonly found = computed((): readonly ChordRhythm[] => {
    const own = this.shelf.contents().rhythms.flatMap((id) => chordRhythmOf(id) ?? []);
    const words = wordsIn(this.query());
    const metre = metreName(this.desk.typing().metre);
    const all = [...own, ...CHORD_RHYTHMS].filter((rhythm) => {
      const text = `${rhythm.family} ${rhythm.name} ${rhythm.fullness} ${rhythm.metre}`.toLowerCase();
      return (
        (this.fullness() === '' || rhythm.fullness === this.fullness()) && words.every((word) => text.includes(word))
      );
    });
    // What is written for this metre comes first; the rest is carried to it.
    return all
      .map((rhythm, index) => ({
        rhythm,
        rank: (rhythm.family === 'Own' ? -1000 : rhythm.metre === metre ? 0 : 1000) + index,
      }))
      .sort((a, b) => a.rank - b.rank)
      .map(({ rhythm }) => rhythm);
  });

  protected readonly ideas = computed((): Idea[] =>
    this.found().map((rhythm) => ({
      id: rhythm.id,
      text: rhythm.name,
      detail: `${rhythm.family.toLowerCase()}, ${rhythm.fullness}${rhythm.metre === '4/4' ? '' : `, ${rhythm.metre}`}`,
    })),
  );

  /** The rhythm that sounds in the scope now. */
  protected readonly now = computed((): ChordRhythm | null => {
    const own = this.scope() === 'chord' ? this.desk.focused()?.rhythm : undefined;
    return chordRhythmOf(own ?? this.desk.setting().rhythm);
  });

  protected readonly cells = computed(() => {
    const metre = this.desk.typing().metre;
    const rhythm = this.now();
    const slots = barTicks(metre) / SIXTEENTH;
    const beats = new Set(beatsOf(metre).map(({ at }) => at / SIXTEENTH));
    const steps = rhythm?.metre === metreName(metre) ? (rhythm.steps.split('|')[0] ?? '') : '';
    return Array.from({ length: slots }, (_, index) => {
      const symbol = steps[index] ?? '.';
      const chance = /\d/.test(symbol) ? `${symbol}0 % of the time` : (SAID[symbol] ?? '');
      return {
        index,
        symbol: symbol === '.' ? '' : symbol,
        beat: beats.has(index),
        on: !['.', ','].includes(symbol),
        strong: symbol === 'X',
        said: `Sixteenth ${index + 1}: ${chance}`,
      };
    });
  });
  protected readonly canWrite = computed(() => isWrittenMetre(metreName(this.desk.typing().metre)));

  /** A rhythm in focus is heard at once; nothing is changed yet. */
  protected hear(id: string): void {
    this.current.set(id);
    const section = this.desk.section();
    if (section)
      this.store.dispatch(SessionActions.chordSettingTried({ section: section.id, setting: { rhythm: id } }));
    this.playback.playIfStopped();
  }

  protected take(id: string | null): void {
    const section = this.desk.section();
    if (!section) return;
    const focused = this.desk.focused();
    if (this.scope() === 'chord' && focused) {
      this.desk.edit(
        'set a chord’s rhythm',
        this.desk.chords().map((span) => {
          if (span.start !== focused.start) return span;
          const { rhythm: _old, ...rest } = span;
          return id === null ? rest : { ...rest, rhythm: id };
        }),
      );
    } else this.set({ rhythm: id });
    this.letGo();
  }

  protected letGo(): void {
    this.current.set(null);
    const section = this.desk.section();
    if (section) this.store.dispatch(SessionActions.chordSettingTried({ section: section.id, setting: null }));
  }

  protected set(change: Partial<ChordSetting>, gesture?: string): void {
    const section = this.desk.section();
    if (section)
      this.store.dispatch(
        ScoreActions.chordSettingChanged({
          section: section.id,
          change,
          ...(gesture ? { gesture: `${gesture} ${section.id}` } : {}),
        }),
      );
  }

  /** Draws a rhythm within the style; every press another one. */
  protected draw(): void {
    const ground = this.desk.ground();
    if (!ground) return;
    const fullness =
      this.fullness() === ''
        ? ((['sparse', 'steady', 'busy'] as const)[this.attempt() % 3] ?? 'steady')
        : (this.fullness() as Fullness);
    const id = draftRhythm(this.desk.style(), ground.metre, fullness, this.song().open?.seed ?? 1, this.attempt());
    this.attempt.update((attempt) => attempt + 1);
    this.take(id);
    this.playback.playIfStopped();
  }

  /** One cell further in its round of meanings. */
  protected press(index: number): void {
    this.write(index, (before) => CYCLE[(CYCLE.indexOf(before as '.') + 1) % CYCLE.length] ?? 'x');
  }

  /** A figure on a cell is its chance in tenths. */
  protected chance(index: number, event: KeyboardEvent): void {
    if (!/^[1-9]$/.test(event.key) || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopPropagation();
    this.write(index, () => event.key);
  }

  private write(index: number, symbol: (before: string) => string): void {
    const metre = this.desk.typing().metre;
    const slots = barTicks(metre) / SIXTEENTH;
    const rhythm = this.now();
    const steps = [
      ...(rhythm?.metre === metreName(metre) ? (rhythm.steps.split('|')[0] ?? '') : '').padEnd(slots, '.'),
    ];
    steps[index] = symbol(steps[index] ?? '.');
    this.take(
      ownRhythmId(
        rhythm?.family === 'Own' ? rhythm.name : 'own rhythm',
        metreName(metre),
        rhythm?.length ?? 90,
        steps.join(''),
      ),
    );
  }

  protected save(event: Event): void {
    event.preventDefault();
    const rhythm = this.now();
    const { name } = this.form.getRawValue();
    if (!rhythm || name.trim() === '') return;
    const id = ownRhythmId(name, rhythm.metre, rhythm.length, rhythm.steps);
    this.shelf.put('rhythms', id);
    this.take(id);
    this.form.reset();
  }

  protected setScope(scope: unknown): void {
    this.scope.set(scope === 'chord' ? 'chord' : 'section');
  }

  protected readonly nowText = computed(() => {
    const rhythm = this.now();
    return rhythm ? `${rhythm.name} (${fullnessOf(rhythm.steps)})` : 'every chord held';
  });
}
