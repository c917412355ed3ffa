import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { SearchField } from '../../ui/fields/search-field';
import { TextField } from '../../ui/fields/text-field';
import { ChoiceField, type Choice, choicesOf } from '../../ui/fields/choice-field';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { ENGINE } from '@fendro/core/compose/engine';
import { listed } from '@fendro/core/compose/own-phrases';
import { AS_IT_IS, type Phrase, type PhraseTurn } from '@fendro/core/compose/phrase';
import { allPhrases, findPhrases, phrasesLike, playPhrase } from '@fendro/core/compose/phrases';
import { sectionTicks, soundingId } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import { HARMONY, type Note, type PartTake } from '@fendro/core/song/schema';
import { Playback } from '../../sound/playback';
import { DragOut } from '../../desks/drag-out';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { newId } from '../../store/ids';
import {
  selectBar,
  selectChords,
  selectGround,
  selectHeard,
  selectMusic,
  selectOwnScore,
  selectPart,
  selectSection,
} from '../../store/selectors';
import { Shelf } from '../../store/shelf';
import { TakeActions } from '../../store/song.actions';
import { HeardList, HeardOption } from '../../ui/heard-list';
import { NotePicture } from '../../ui/note-picture';
import { shapeOf } from '../../ui/note-shape';
import { voicedTake } from '@fendro/core/song/take';

/** As many as the drawer's style sheet has. */
const COLUMNS = 6;
const SHOWN = 24;
/** Pictures worked out before the page gets to breathe. */
const AT_ONCE = 3;
/** A tapped rhythm ends after this pause. */
const PAUSE_MS = 1400;

interface Picture {
  readonly phrase: Phrase;
  readonly notes: readonly Note[];
  readonly height: number;
}

/**
 * Phrases over the section's chords on a field from sparse to busy and low to high: heard in time, taken with one
 * key.
 */
@Component({
  selector: 'fd-phrases-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [HeardList, HeardOption, NotePicture, MatButton, ChoiceField, TextField, SearchField, MatCheckbox],
  templateUrl: './phrases-drawer.html',
  styleUrl: '../drawer.scss',
})
export class PhrasesDrawer {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly playback = inject(Playback);
  private readonly out = inject(DragOut);
  protected readonly shelf = inject(Shelf);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly ground = this.store.selectSignal(selectGround);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly chords = this.store.selectSignal(selectChords);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly heard = this.store.selectSignal(selectHeard);
  protected readonly bar = this.store.selectSignal(selectBar);
  protected readonly part = this.store.selectSignal(selectPart);
  protected readonly columns = COLUMNS;
  protected readonly drums = computed(() => isDrumRole(this.part()?.role ?? 'melody'));
  protected readonly usable = computed(() => {
    if (this.part() === null) return false;
    return this.drums() ? this.all().length > 0 : this.chords().length > 0;
  });
  private readonly own = computed(() =>
    this.shelf
      .contents()
      .phrases.filter(({ role }) => isDrumRole(role) === this.drums())
      .map(listed),
  );
  /** Drums have the patterns on the shelf; figures over chords are for all others. */
  private readonly all = computed((): readonly Phrase[] => [...this.own(), ...(this.drums() ? [] : allPhrases())]);
  protected readonly counted = computed(() => {
    const total = this.all().length;
    const what = this.drums() ? 'drum pattern' : 'phrase';
    return `${total} ${what}${total === 1 ? '' : 's'}${this.drums() ? '' : ' over these chords'}`;
  });
  protected readonly families: readonly Choice<Phrase['family'] | ''>[] = [
    { value: '', text: 'any kind' },
    ...choicesOf<Phrase['family']>(['broken chord', 'stabs', 'strumming', 'picking', 'bass figure', 'own']),
  ];
  protected readonly octaves: readonly Choice<PhraseTurn['octave']>[] = [
    { value: 1, text: 'octave up' },
    { value: 0, text: 'as it lies' },
    { value: -1, text: 'octave down' },
  ];
  protected readonly speeds: readonly Choice<PhraseTurn['speed']>[] = [
    { value: 2, text: 'double speed' },
    { value: 1, text: 'its speed' },
    { value: 0.5, text: 'half speed' },
  ];
  protected readonly fullnesses: readonly Choice<PhraseTurn['fullness']>[] = [
    { value: 1, text: 'fuller' },
    { value: 0, text: 'as full' },
    { value: -1, text: 'thinner' },
  ];

  protected readonly query = signal('');
  protected readonly family = signal<Phrase['family'] | ''>('');
  protected readonly favouritesOnly = signal(false);
  protected readonly turn = signal<PhraseTurn>(AS_IT_IS);
  protected readonly tapped = signal<readonly number[] | null>(null);
  private taps: number[] = [];
  private tapTimer: ReturnType<typeof setTimeout> | undefined;
  protected readonly current = signal<string | null>(null);
  private tried: PartTake | null = null;
  private readonly pictures = signal<ReadonlyMap<string, Picture>>(new Map());
  private round = 0;

  protected readonly found = computed((): readonly Phrase[] => {
    const family = this.family();
    const all = findPhrases(this.query(), family === '' ? null : family, this.all()).filter(
      ({ id }) => !this.favouritesOnly() || this.shelf.isFavourite(id),
    );
    const tapped = this.tapped();
    if (tapped)
      return phrasesLike(tapped, all)
        .slice(0, SHOWN)
        .toSorted((a, b) => a.busyness - b.busyness);
    // Of many, every so-and-so-manieth, so that the whole field from sparse to busy is there.
    // One's own are always there.
    const [own, others] = [all.filter((phrase) => phrase.own), all.filter((phrase) => !phrase.own)];
    const room = Math.max(0, SHOWN - own.length);
    const step = Math.max(1, others.length / Math.max(1, room));
    const spread = Array.from(
      { length: Math.min(room, others.length) },
      (_, index) => others[Math.floor(index * step)],
    ).filter((phrase) => phrase !== undefined);
    return [...own.slice(0, SHOWN), ...spread].toSorted((a, b) => a.busyness - b.busyness);
  });

  /** Columns from sparse to busy, each from high above to low below, read row by row. */
  protected readonly field = computed((): readonly Picture[] => {
    const pictures = this.found().flatMap((phrase) => this.pictures().get(phrase.id) ?? []);
    const rows = Math.ceil(pictures.length / COLUMNS);
    const columns = Array.from({ length: COLUMNS }, (_, column) =>
      pictures.slice(column * rows, (column + 1) * rows).sort((a, b) => b.height - a.height),
    );
    return Array.from({ length: rows }, (_, row) => columns.flatMap((column) => column[row] ?? [])).flat();
  });

  protected readonly shape = computed(() => shapeOf(this.part()?.colour ?? 0, false));
  protected readonly length = computed(() => {
    const [score, section] = [this.score(), this.section()];
    return score && section ? sectionTicks(score, section) : 1920;
  });

  constructor() {
    effect(() => {
      const found = this.found();
      const usable = this.usable();
      const ingredients = [this.turn(), this.chords(), this.ground(), this.section(), this.part()?.brief.low];
      untracked(() => {
        this.draw(usable ? found : [], ingredients.length);
      });
    });
  }

  /** Works the pictures out a few at a time, so that nothing waits for them. */
  private draw(found: readonly Phrase[], _ingredients: number): void {
    const round = ++this.round;
    const made = new Map<string, Picture>();
    const step = (from: number): void => {
      if (round !== this.round) return;
      for (const phrase of found.slice(from, from + AT_ONCE)) {
        const notes = this.play(phrase);
        if (notes && notes.length > 0)
          made.set(phrase.id, {
            phrase,
            notes,
            height: notes.reduce((sum, { pitch }) => sum + pitch, 0) / notes.length,
          });
      }
      this.pictures.set(new Map(made));
      if (from + AT_ONCE < found.length)
        setTimeout(() => {
          step(from + AT_ONCE);
        });
    };
    step(0);
  }

  private play(phrase: Phrase): readonly Note[] | null {
    const [ground, section, part] = [this.ground(), this.section(), this.part()];
    if (!ground || !section || !part) return null;
    // A part's own register counts where it plays the phrase's role; a bass plays a bass figure where basses play.
    const range = part.role === phrase.role && !this.drums() ? part.brief : null;
    const played = playPhrase(
      phrase,
      { engine: ENGINE, ground, bars: section.bars, kind: section.kind },
      this.chords(),
      // Another octave of a drum is another drum.
      this.drums() ? { ...AS_IT_IS, speed: this.turn().speed } : this.turn(),
      range,
    );
    return played.ok ? played.notes : null;
  }

  private takeOf({ phrase, notes }: Picture): PartTake | null {
    const [ground, section, part, score] = [this.ground(), this.section(), this.part(), this.score()];
    if (!ground || !section || !part || !score) return null;
    return voicedTake({ id: newId('take'), section: section.id, length: sectionTicks(score, section) }, part, notes, {
      from: phrase.name,
      harmony: soundingId(section, HARMONY, this.heard()),
      ground,
    });
  }

  protected hear(id: string): void {
    const picture = this.field().find(({ phrase }) => phrase.id === id);
    const take = picture ? this.takeOf(picture) : null;
    if (!take) return;
    this.current.set(id);
    this.tried = take;
    this.store.dispatch(
      TakeActions.madeAndHeard({ takes: [take], take: take.id, section: take.section, line: take.part }),
    );
    this.playback.playIfStopped();
  }

  protected take(): void {
    const tried = this.tried;
    if (tried) this.desk.choose(tried.section, tried.part, tried.id);
    this.end();
  }

  protected letGo(): void {
    const tried = this.tried;
    if (tried) this.desk.backToChosen(tried.section, tried.part);
    this.end();
  }

  private end(): void {
    this.tried = null;
    this.current.set(null);
  }

  protected set(change: Partial<PhraseTurn>): void {
    this.turn.update((turn) => ({ ...turn, ...change }));
  }

  /** Taps become places in a bar of sixteen from the first on; a pause ends them. */
  protected tap(): void {
    const tempo = this.ground()?.tempo ?? 96;
    this.taps.push(performance.now());
    clearTimeout(this.tapTimer);
    this.tapTimer = setTimeout(() => {
      const [first = 0] = this.taps;
      const sixteenth = 15_000 / tempo;
      const places = [...new Set(this.taps.map((at) => Math.round((at - first) / sixteenth) % 16))];
      this.taps = [];
      this.tapped.set(places.sort((a, b) => a - b));
    }, PAUSE_MS);
  }

  /** The phrase of one's own that is being heard. */
  protected readonly ownCurrent = computed(
    () => this.shelf.contents().phrases.find(({ id }) => id === this.current()) ?? null,
  );

  protected forget(id: string): void {
    this.letGo();
    this.shelf.remove('phrases', id);
  }

  protected tappedText(): string {
    const places = this.tapped() ?? [];
    return Array.from({ length: 16 }, (_, place) => (places.includes(place) ? 'x' : '·')).join('');
  }

  /** A phrase's picture dragged out of the window arrives elsewhere as a MIDI file. */
  protected dragOut(event: DragEvent, picture: Picture): void {
    this.out.start(event, this.music(), this.takeOf(picture));
  }
}
