import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { ReactiveFormsModule, FormControl, FormGroup } from '@angular/forms';
import { MatInput } from '@angular/material/input';
import { MatFormField } from '@angular/material/form-field';
import { MatCheckbox } from '@angular/material/checkbox';
import { SearchField } from '../../ui/fields/search-field';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { chordsWithin, progressionIn } from '@fendro/core/song/progression';
import { pasteChords, closeGaps } from '@fendro/core/song/chord-edit';
import type { ChordSpan } from '@fendro/core/song/schema';
import { collection, findFormulas, formulaChords, type Formula } from '@fendro/core/styles/progressions/collection';
import { chordSymbol } from '@fendro/core/theory/chord';
import { barTicks } from '@fendro/core/theory/metre';
import { Playback } from '../../sound/playback';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { selectBar } from '../../store/selectors';
import { Shelf, type ShelfProgression } from '../../store/shelf';
import { IdeaList, type Idea } from '../../ui/idea-list';
import { sessionFeature } from '../../store/session';
import { wordsIn } from '../../ui/words';

const SHOWN = 80;

/** A formula of the collection, or one's own progression. */
type Entry =
  | { readonly id: string; readonly own: ShelfProgression; readonly formula: null }
  | { readonly id: string; readonly own: null; readonly formula: Formula };

/** A formula as it is written: degrees, bar by bar. */
const degreesOf = ({ bars }: Formula): string =>
  bars.map((bar) => bar.join(' ').replaceAll('b', '♭').replaceAll('#', '♯')).join(' | ');

/** Progressions to pick from, found by words, heard in the song's own key and tempo; one's own among them. */
@Component({
  selector: 'fd-collection-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [IdeaList, MatButton, SearchField, MatCheckbox, MatFormField, MatInput, ReactiveFormsModule],
  template: `
    <fd-search-field label="Find progressions by words" placeholder="soul sevenths 8 bars" [(query)]="query" />
    <div class="row">
      <mat-checkbox [checked]="favouritesOnly()" (change)="favouritesOnly.set($event.checked)"
        >only what I kept</mat-checkbox
      >
      <span class="quiet" role="status">{{ found().length }} found</span>
    </div>
    <fd-idea-list
      label="Progressions"
      [ideas]="ideas()"
      [current]="current()"
      nothing="Nothing by these words. Try a family, a mood, “minor”, “sevenths” or “8 bars”."
      (heard)="hear($event)"
      (taken)="take($event)"
      (left)="letGo()"
      (kept)="shelf.toggleFavourite($event)"
    />
    <div class="row">
      <button matButton="filled" class="small" [disabled]="!desk.trying()" (click)="takeHeard()">Take it</button>
      <button matButton="outlined" class="small" [disabled]="current() === null" (click)="keep()">
        {{ isKept() ? 'Kept' : 'Keep' }}
      </button>
      <span class="gap"></span>
      <button matButton="outlined" class="small" (click)="saving.set(!saving())" [attr.aria-expanded]="saving()">
        Save these chords
      </button>
    </div>
    @if (saving()) {
      <form class="row" [formGroup]="form" (submit)="save($event)">
        <mat-form-field class="small grow">
          <input
            matInput
            formControlName="name"
            aria-label="Name for the progression"
            placeholder="a name to find it by"
            maxlength="60"
          />
        </mat-form-field>
        <button matButton="outlined" class="small" type="submit">Save</button>
      </form>
    }
    <p class="quiet">{{ where() }} ↑ ↓ hear, Enter takes, Y keeps.</p>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 6px;
      min-height: 0;
      flex: 1;
    }
    fd-idea-list {
      flex: 1;
      min-height: 120px;
    }
    .row {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .grow {
      flex: 1;
    }
    .gap {
      flex: 1;
    }
    p {
      margin: 0;
    }
  `,
})
export class CollectionPanel {
  private readonly store = inject(Store);
  protected readonly desk = inject(HarmonyDesk);
  protected readonly shelf = inject(Shelf);
  private readonly playback = inject(Playback);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly bar = this.store.selectSignal(selectBar);
  protected readonly query = signal('');
  protected readonly favouritesOnly = signal(false);
  protected readonly current = signal<string | null>(null);
  protected readonly saving = signal(false);
  protected readonly form = new FormGroup({ name: new FormControl('', { nonNullable: true }) });
  private base: readonly ChordSpan[] | null = null;

  private readonly ownFound = computed(() => {
    const words = wordsIn(this.query());
    return this.shelf.contents().progressions.filter(({ name, bars, chords }) => {
      const text =
        `own ${name} ${bars} bars ${chords.map(({ chord }) => (chord ? chordSymbol(chord) : '')).join(' ')}`.toLowerCase();
      return words.every((word) => text.split(/\s+/).some((part) => part.startsWith(word)));
    });
  });

  protected readonly found = computed(() => {
    const own = this.ownFound().map((progression): Entry => ({ id: progression.id, own: progression, formula: null }));
    const formulas = findFormulas(collection(), this.query(), this.desk.key()).map((formula): Entry => ({
      id: formula.id,
      own: null,
      formula,
    }));
    const all = [...own, ...formulas];
    return this.favouritesOnly() ? all.filter(({ id, own: mine }) => mine !== null || this.shelf.isFavourite(id)) : all;
  });

  protected readonly ideas = computed((): Idea[] =>
    this.found()
      .slice(0, SHOWN)
      .map(({ id, own, formula }) => ({
        id,
        text: own ? own.name : this.symbolsOf(formula),
        detail: own
          ? `your own, ${own.bars} bars`
          : `${degreesOf(formula)}; ${formula.family.toLowerCase()}, ${formula.moods.join(', ')}`,
        ...(this.shelf.isFavourite(id) ? { marked: 'kept' } : {}),
      })),
  );

  /** The chords of a formula in the song's key, bar by bar. */
  private symbolsOf(formula: Formula): string {
    const { metre } = this.desk.typing();
    const bar = barTicks(metre);
    const chords = formulaChords(formula, this.desk.key(), metre, formula.bars.length);
    return formula.bars
      .map((_, index) =>
        chords
          .filter(({ start }) => Math.floor(start / bar) === index)
          .map(({ chord }) => (chord ? chordSymbol(chord) : ''))
          .join(' '),
      )
      .join(' | ');
  }

  protected readonly isKept = computed(() => {
    const id = this.current();
    return id !== null && this.shelf.isFavourite(id);
  });

  protected readonly where = computed(() => {
    const bars = this.bars();
    return bars ? `Goes into bars ${bars.from + 1}–${bars.to}.` : 'Goes into the whole section.';
  });

  /** A progression laid over the selected bars or the whole section. */
  private laid(id: string): readonly ChordSpan[] | null {
    const entry = this.found().find((candidate) => candidate.id === id);
    const section = this.desk.section();
    if (!entry || !section) return null;
    const bars = this.bars();
    const count = bars ? bars.to - bars.from : section.bars;
    const clip = entry.formula
      ? formulaChords(entry.formula, this.desk.key(), this.desk.typing().metre, count)
      : progressionIn(entry.own, this.desk.key(), count * this.bar());
    const base = this.base ?? this.desk.chords();
    return bars
      ? pasteChords(base, bars.from * this.bar(), clip, this.desk.length())
      : closeGaps(clip, this.desk.length());
  }

  protected hear(id: string): void {
    this.base ??= this.desk.chords();
    const chords = this.laid(id);
    if (!chords) return;
    this.current.set(id);
    this.desk.hear(chords, this.ideas().find((idea) => idea.id === id)?.text ?? 'the collection');
    this.playback.playIfStopped();
  }

  protected take(id: string): void {
    const chords = this.laid(id);
    if (chords) this.desk.edit('take a progression', chords);
    this.end();
  }

  protected takeHeard(): void {
    const id = this.current();
    if (id !== null) this.take(id);
  }

  protected keep(): void {
    const id = this.current();
    if (id !== null) this.shelf.toggleFavourite(id);
  }

  protected letGo(): void {
    this.desk.letGo();
    this.end();
  }

  private end(): void {
    this.base = null;
    this.current.set(null);
  }

  /** Saves what sounds now: the selected bars, or the whole section. */
  protected save(event: Event): void {
    event.preventDefault();
    const { name } = this.form.getRawValue();
    const clean = name.trim();
    if (clean === '') return;
    const bars = this.bars();
    const bar = this.bar();
    const stretch = bars ? { from: bars.from * bar, to: bars.to * bar } : { from: 0, to: this.desk.length() };
    const chords = chordsWithin(this.desk.chords(), stretch.from, stretch.to);
    const { tonic, scale } = this.desk.key();
    this.shelf.add('progressions', {
      name: clean,
      tonic,
      scale,
      length: stretch.to - stretch.from,
      bars: Math.round((stretch.to - stretch.from) / bar),
      chords,
    });
    this.saving.set(false);
  }
}
