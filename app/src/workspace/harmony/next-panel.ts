import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { nextChords, substitutesFor, type ChordIdea } from '@fendro/core/compose/harmony/next';
import type { ChordSpan } from '@fendro/core/song/schema';
import { setChords } from '@fendro/core/song/chord-edit';
import { typeChords } from '@fendro/core/song/chord-typing';
import { chordSymbol, type Chord, sameChord } from '@fendro/core/theory/chord';
import { romanNumeral } from '@fendro/core/theory/harmony-role';
import { Store } from '@ngrx/store';
import { Playback } from '../../sound/playback';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { selectBar } from '../../store/selectors';
import { SessionActions, sessionFeature } from '../../store/session';
import { IdeaList, type Idea } from '../../ui/idea-list';

/** Ideas that are offered at once. */
const IDEAS = 8;

/** What could come next after the chord in focus, and what could stand in its place, each with its reasons. */
@Component({
  selector: 'fd-next-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [IdeaList],
  template: `
    <p class="where">{{ where() }}</p>
    <fd-idea-list
      label="What could come next"
      [ideas]="nextIdeas()"
      [current]="current()?.list === 'next' ? current()!.id : null"
      nothing="Type or draft a chord first."
      (heard)="hear('next', $event)"
      (taken)="take('next', $event)"
      (left)="letGo()"
    />
    <h3>In its place</h3>
    <fd-idea-list
      label="Substitutes"
      [ideas]="substituteIdeas()"
      [current]="current()?.list === 'place' ? current()!.id : null"
      nothing="Nothing stands here yet."
      (heard)="hear('place', $event)"
      (taken)="take('place', $event)"
      (left)="letGo()"
    />
    <p class="quiet">↑ ↓ hear, Enter takes, Escape leaves the chords as they were.</p>
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
      min-height: 90px;
    }
    h3 {
      font-size: 0.875rem;
      margin-top: 2px;
    }
    p {
      margin: 0;
    }
  `,
})
export class NextPanel {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly playback = inject(Playback);
  private readonly chordAt = this.store.selectSignal(sessionFeature.selectChordAt);
  private readonly bar = this.store.selectSignal(selectBar);
  protected readonly current = signal<{ readonly list: 'next' | 'place'; readonly id: string } | null>(null);
  /** The chords as they were when trying began: ideas are always put into these. */
  private base: readonly ChordSpan[] | null = null;
  private readonly baseChords = signal<readonly ChordSpan[] | null>(null);

  private readonly chords = computed(() => this.baseChords() ?? this.desk.chords());
  private readonly at = computed(() => this.chordAt());
  private readonly span = computed(
    (): ChordSpan | null =>
      this.chords().find(({ start, duration }) => start <= this.at() && this.at() < start + duration) ??
      this.chords().at(-1) ??
      null,
  );

  /** Where the next chord goes: at the next chord's place, or in the next bar of an open end. */
  private readonly nextPlace = computed(() => {
    const span = this.span();
    if (!span) return 0;
    const next = span.start + span.duration;
    const bar = this.bar();
    const following = (Math.floor(span.start / bar) + 1) * bar;
    return Math.min(next, following) < this.desk.length() ? Math.min(next, following) : null;
  });

  /** What stands there already: it is no idea. */
  private readonly there = computed((): Chord | null => {
    const place = this.nextPlace();
    return this.chords().find(({ start }) => start === place)?.chord ?? null;
  });

  private readonly after = computed((): Chord | null => {
    const place = this.nextPlace();
    const spans = this.chords();
    const at = place === null ? -1 : spans.findIndex(({ start }) => start >= place);
    const beyond = spans[at]?.start === place ? spans[at + 1] : spans[at];
    return at < 0 ? null : (beyond?.chord ?? null);
  });

  private readonly next = computed((): readonly ChordIdea[] => {
    const ground = this.desk.ground();
    const section = this.desk.section();
    if (!ground || !section) return [];
    const there = this.there();
    return nextChords(
      this.desk.style(),
      this.desk.key(),
      section.harmonyBrief.colouring,
      this.span()?.chord ?? null,
      this.after(),
      IDEAS + 1,
    )
      .filter(({ chord }) => !there || !sameChord(chord, there))
      .slice(0, IDEAS);
  });

  private readonly substitutes = computed((): readonly ChordIdea[] => {
    const span = this.span();
    const following = span
      ? (this.chords().find(({ start }) => start >= span.start + span.duration)?.chord ?? null)
      : null;
    return span?.chord ? substitutesFor(span.chord, this.desk.key(), following) : [];
  });

  private readonly shown = (list: readonly ChordIdea[], prefix: string): Idea[] =>
    list.map(({ chord, reasons }, index) => ({
      id: `${prefix}-${index}`,
      chord,
      detail: `${romanNumeral(chord, this.desk.key())} · ${reasons.join(', ')}`,
    }));
  protected readonly nextIdeas = computed(() => this.shown(this.next(), 'next'));
  protected readonly substituteIdeas = computed(() => this.shown(this.substitutes(), 'place'));

  protected readonly where = computed(() => {
    const span = this.span();
    if (!span) return 'What could come first';
    const place = this.nextPlace();
    const bar = place === null ? null : Math.floor(place / this.bar()) + 1;
    return `After ${span.chord ? chordSymbol(span.chord) : 'silence'}${bar === null ? ', round again' : `, for bar ${bar}`}`;
  });

  private with(
    list: 'next' | 'place',
    id: string,
  ): { readonly chords: ChordSpan[]; readonly at: number; readonly chord: Chord } | null {
    const idea = (list === 'next' ? this.next() : this.substitutes())[Number(id.split('-')[1])];
    const span = this.span();
    if (!idea) return null;
    if (list === 'place' && span) {
      const { voicing: _voicing, ...rest } = span;
      const replaced = this.chords().map((other) => (other === span ? { ...rest, chord: idea.chord } : other));
      return { chords: replaced, at: span.start, chord: idea.chord };
    }
    const place = this.nextPlace() ?? 0;
    const typed = typeChords(this.chords(), place, 'N.C.', this.desk.typing());
    return {
      chords: setChords(typed, { from: place, to: place + 1 }, { chord: idea.chord }),
      at: place,
      chord: idea.chord,
    };
  }

  protected hear(list: 'next' | 'place', id: string): void {
    this.base ??= this.desk.chords();
    this.baseChords.set(this.base);
    const made = this.with(list, id);
    if (!made) return;
    this.current.set({ list, id });
    this.desk.hear(made.chords, list === 'next' ? 'what could come next' : 'what could stand in its place');
    this.playback.playIfStopped();
  }

  protected take(list: 'next' | 'place', id: string): void {
    const made = this.with(list, id);
    if (!made) return;
    this.desk.edit('take a chord idea', made.chords);
    this.end();
    this.store.dispatch(SessionActions.chordFocused({ at: made.at }));
  }

  protected letGo(): void {
    this.desk.letGo();
    this.end();
  }

  private end(): void {
    this.base = null;
    this.baseChords.set(null);
    this.current.set(null);
  }
}
