import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { SearchField } from '../../ui/fields/search-field';
import { FileButton } from '../../ui/fields/file-button';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { applyStyle } from '@fendro/core/styles/band';
import { findStyles } from '@fendro/core/styles/find';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import type { Style } from '@fendro/core/song/style';
import { readStyle, writeStyle } from '@fendro/core/styles/style-file';
import { copyOfStyle } from '@fendro/core/styles/style-text';
import { withStyle } from '@fendro/core/styles/styles';
import { scaleOf } from '@fendro/core/theory/scale';
import { StyleDesk } from '../../desks/style-desk';
import { newId } from '../../store/ids';
import { selectOwnScore, selectPart, selectSection } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { ScoreActions } from '../../store/song.actions';
import { Shelf } from '../../store/shelf';
import { download } from '../../ui/download';
import { IdeaList, type Idea } from '../../ui/idea-list';
import { StyleEditor } from './style-editor';

/** Styles by words and tempo, each heard over the section's own chords before anything is changed. */
@Component({
  selector: 'fd-styles-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatTooltip, IdeaList, StyleEditor, MatButton, MatIcon, FileButton, SearchField, MatCheckbox],
  template: `
    <header [class.tall]="editing() !== null">
      <h2>Styles</h2>
      <fd-search-field label="Find styles by words" placeholder="latin bright 100" [(query)]="query" />
      <span class="quiet" role="status">{{ desk.working() ? 'drafting its band …' : ideas().length + ' found' }}</span>
      <span class="gap"></span>
      <fd-file-button
        class="small"
        label="Open a style file"
        accept=".fendro-style,.json,application/json"
        (picked)="openFile($event)"
        >Open a style file</fd-file-button
      >
    </header>
    @for (problem of problems(); track problem) {
      <p class="problem" role="alert">{{ problem }}</p>
    }
    @if (editing(); as style) {
      <fd-style-editor [style]="style" [isNew]="isNew()" (saved)="save($event)" (left)="editing.set(null)" />
    } @else {
      <div class="columns">
        <fd-idea-list
          label="Styles"
          [ideas]="ideas()"
          [current]="current()"
          nothing="No style by these words. Try a family, a mood, a metre or a tempo."
          (heard)="hear($event)"
          (taken)="apply()"
          (left)="letGo()"
        />
        <div class="side">
          @if (shown(); as shown) {
            <p>
              <b>{{ shown.name }}</b>, at home in {{ shown.metres }} at {{ shown.tempo }}, in {{ shown.scales }}.
            </p>
            <p class="quiet">Its band: {{ shown.band }}.</p>
            <div class="row">
              <mat-checkbox [checked]="pace()" (change)="pace.set($event.checked)">its tempo and metre</mat-checkbox>
              <mat-checkbox [checked]="sounds()" (change)="sounds.set($event.checked)"
                >its instruments and levels</mat-checkbox
              >
              <mat-checkbox [checked]="missing()" (change)="missing.set($event.checked)"
                >parts that I lack</mat-checkbox
              >
            </div>
            <div class="row">
              <button matButton="filled" class="small" (click)="apply()">Apply to the song</button>
              <button matButton="outlined" class="small" (click)="applyToSection()">
                Only to {{ section()?.name }}
              </button>
              @if (part(); as part) {
                <button matButton="outlined" class="small" (click)="applyToPart()">Only to {{ part.name }}</button>
              }
            </div>
            <div class="row">
              @if (shown.own) {
                <button matButton="outlined" class="small" (click)="edit()">Change it …</button>
                <button matButton="outlined" class="small" (click)="saveFile()">
                  <mat-icon svgIcon="download" />As a file
                </button>
                @if (shown.shelved) {
                  <button matButton="outlined" class="small" (click)="remove()" matTooltip="Songs that use it keep it">
                    Remove
                  </button>
                }
              } @else {
                <button matButton="outlined" class="small" (click)="edit()">Make my own of it …</button>
              }
            </div>
            <p class="quiet">
              What is there stays; what you draft from now on is in the style. Escape stops listening.
            </p>
          } @else {
            <p class="quiet">
              ↑ and ↓ hear a style’s band over this section’s chords. Nothing changes until you apply one.
            </p>
          }
        </div>
      </div>
    }
  `,
  styleUrl: '../drawer.scss',
})
export class StylesDrawer {
  private readonly store = inject(Store);
  protected readonly desk = inject(StyleDesk);
  private readonly score = this.store.selectSignal(selectOwnScore);
  protected readonly section = this.store.selectSignal(selectSection);
  protected readonly part = this.store.selectSignal(selectPart);
  protected readonly query = signal('');
  protected readonly current = signal<string | null>(null);
  protected readonly pace = signal(false);
  protected readonly sounds = signal(false);
  protected readonly missing = signal(false);
  private readonly shelf = inject(Shelf);
  protected readonly editing = signal<Style | null>(null);
  protected readonly isNew = signal(false);
  /** What is wrong with a style file that was opened. */
  protected readonly problems = signal<readonly string[]>([]);

  protected readonly ideas = computed((): Idea[] => {
    const now = this.score()?.ground.style;
    const whose = (id: string): string => (this.desk.isOwn(id) ? 'your own, ' : '');
    return findStyles(this.query(), this.desk.all()).map(({ id, name, family, moods, tempo, metres }) => ({
      id,
      text: name,
      detail: `${whose(id)}${family.toLowerCase()}; ${moods.join(', ')}; ${metres[0]}, ${tempo.low}–${tempo.high}`,
      ...(id === now ? { marked: 'in use' } : {}),
    }));
  });

  protected readonly shown = computed(() => {
    const style = this.desk.all().find(({ id }) => id === this.current());
    return style
      ? {
          name: style.name,
          own: this.desk.isOwn(style.id),
          shelved: this.shelf.contents().styles.includes(style),
          metres: style.metres.join(', '),
          tempo: `${style.tempo.low}–${style.tempo.high}`,
          scales: style.scales.map((id) => scaleOf(id).name.toLowerCase()).join(', '),
          band: style.band
            .map(({ name, instrument }) => `${name} (${instrumentOf(instrument).name.toLowerCase()})`)
            .join(', '),
        }
      : null;
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.desk.silence();
    });
  }

  protected hear(id: string): void {
    this.current.set(id);
    void this.desk.hear(id);
  }

  protected letGo(): void {
    this.desk.silence();
    this.current.set(null);
  }

  protected apply(): void {
    const [score, id] = [this.score(), this.current()];
    if (!score || id === null) return;
    const change = { pace: this.pace(), sounds: this.sounds(), missing: this.missing() };
    this.desk.silence();
    this.store.dispatch(
      ScoreActions.revised({
        name: 'apply a style',
        score: applyStyle(score, this.desk.styleBy(id), change, () => newId('part')),
        takes: [],
        released: [],
      }),
    );
  }

  protected applyToSection(): void {
    const [score, section, style] = [this.score(), this.section(), this.current()];
    if (!score || !section || style === null) return;
    this.desk.silence();
    const sections = score.sections.map((other) => {
      if (other.id !== section.id) return other;
      const { style: _old, ...ground } = other.ground;
      return { ...other, ground: style === score.ground.style ? ground : { ...ground, style } };
    });
    this.store.dispatch(
      ScoreActions.revised({
        name: 'apply a style to a section',
        score: { ...withStyle(score, this.desk.styleBy(style)), sections },
        takes: [],
        released: [],
      }),
    );
  }

  protected applyToPart(): void {
    const [score, part, style] = [this.score(), this.part(), this.current()];
    if (!score || !part || style === null) return;
    this.desk.silence();
    const parts = score.parts.map((other) =>
      other.id === part.id ? { ...other, style: style === score.ground.style ? null : style } : other,
    );
    this.store.dispatch(
      ScoreActions.revised({
        name: 'apply a style to a part',
        score: { ...withStyle(score, this.desk.styleBy(style)), parts },
        takes: [],
        released: [],
      }),
    );
  }

  /** One's own is changed, one that ships is copied first. */
  protected edit(): void {
    const id = this.current();
    if (id === null) return;
    this.desk.silence();
    this.isNew.set(!this.desk.isOwn(id));
    const style = this.desk.styleBy(id);
    this.editing.set(this.desk.isOwn(id) ? style : copyOfStyle(style, style.id, `My ${style.name.toLowerCase()}`));
  }

  /** A changed style is another one: songs that carry the old one keep it until the new one is applied. */
  protected save(style: Style): void {
    const before = this.editing()?.id ?? null;
    const kept = copyOfStyle(style, newId('style'), style.name);
    this.shelf.saveStyle(kept, this.isNew() ? null : before);
    this.editing.set(null);
    this.query.set('');
    this.current.set(kept.id);
  }

  protected saveFile(): void {
    const id = this.current();
    if (id === null) return;
    const style = this.desk.styleBy(id);
    download(fileNameOf([style.name], '.fendro-style'), writeStyle(style), 'application/json');
  }

  protected remove(): void {
    const id = this.current();
    if (id === null) return;
    this.letGo();
    this.shelf.remove('styles', id);
  }

  protected async openFile([file]: readonly File[]): Promise<void> {
    if (!file) return;
    const read = readStyle(await file.text());
    this.problems.set(read.ok ? [] : [`${file.name} was not opened.`, ...read.problems]);
    if (!read.ok) return;
    const style = copyOfStyle(read.style, newId('style'), read.style.name);
    this.shelf.saveStyle(style, null);
    this.query.set('');
    this.current.set(style.id);
  }

  protected close(): void {
    this.store.dispatch(SessionActions.drawerToggled({ drawer: 'styles' }));
  }
}
