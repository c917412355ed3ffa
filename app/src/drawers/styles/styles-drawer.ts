import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { SearchField } from '../../ui/fields/search-field';
import { FileButton } from '../../ui/fields/file-button';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { groundOf } from '@fendro/core/song/ground';
import { harmonyTake, sectionTicks, soundingId } from '@fendro/core/song/resolve';
import { inDraftingOrder, listenedTo } from '@fendro/core/song/roles';
import { HARMONY, type PartTake, type Score, type Take, type TakeId, type LineId } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { applyStyle, partFrom } from '@fendro/core/styles/band';
import { findStyles } from '@fendro/core/styles/find';
import { fileNameOf } from '@fendro/core/files/file-names';
import type { Style } from '@fendro/core/song/style';
import { readStyle, writeStyle } from '@fendro/core/styles/style-file';
import { copyOfStyle } from '@fendro/core/styles/style-text';
import { STYLES, styleOf, withStyle } from '@fendro/core/styles/styles';
import { metreName, METRES } from '@fendro/core/theory/metre';
import { scaleOf } from '@fendro/core/theory/scale';
import { Playback } from '../../sound/playback';
import { newId } from '../../store/ids';
import { selectHeard, selectOwnScore, selectPart, selectSection, selectSong, selectTakes } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { ScoreActions } from '../../store/song.actions';
import { Shelf } from '../../store/shelf';
import { download } from '../../ui/download';
import { IdeaList, type Idea } from '../../ui/idea-list';
import { DraftClient } from '../../work/draft-client';
import { StyleEditor } from './style-editor';
import { partAsking } from '@fendro/core/compose/asking';
import { draftedTake } from '@fendro/core/song/take';
import { withChoices } from '@fendro/core/song/section';

/** Styles by words and tempo, each heard over the section's own chords before anything is changed. */
@Component({
  selector: 'fd-styles-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatTooltip, IdeaList, StyleEditor, MatButton, MatIcon, FileButton, SearchField, MatCheckbox],
  template: `
    <header [class.tall]="editing() !== null">
      <h2>Styles</h2>
      <fd-search-field label="Find styles by words" placeholder="latin bright 100" [(query)]="query" />
      <span class="quiet" role="status">{{ working() ? 'drafting its band …' : ideas().length + ' found' }}</span>
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
  private readonly client = inject(DraftClient);
  private readonly playback = inject(Playback);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly song = this.store.selectSignal(selectSong);
  protected readonly section = this.store.selectSignal(selectSection);
  protected readonly part = this.store.selectSignal(selectPart);
  protected readonly query = signal('');
  protected readonly current = signal<string | null>(null);
  protected readonly working = signal(false);
  protected readonly pace = signal(false);
  protected readonly sounds = signal(false);
  protected readonly missing = signal(false);
  private asked = 0;
  private readonly shelf = inject(Shelf);
  /** One's own from the shelf, those that the song brought along, and those that ship. */
  private readonly all = computed((): readonly Style[] => {
    const own = this.shelf.contents().styles;
    const carried = (this.score()?.styles ?? []).filter(({ id }) => own.every((style) => style.id !== id));
    return [...own, ...carried, ...STYLES];
  });
  private readonly isOwn = (id: string): boolean => STYLES.every((style) => style.id !== id);
  private readonly styleBy = (id: string): Style => this.all().find((style) => style.id === id) ?? styleOf(id);
  protected readonly editing = signal<Style | null>(null);
  protected readonly isNew = signal(false);
  /** What is wrong with a style file that was opened. */
  protected readonly problems = signal<readonly string[]>([]);

  protected readonly ideas = computed((): Idea[] => {
    const now = this.score()?.ground.style;
    const whose = (id: string): string => (this.isOwn(id) ? 'your own, ' : '');
    return findStyles(this.query(), this.all()).map(({ id, name, family, moods, tempo, metres }) => ({
      id,
      text: name,
      detail: `${whose(id)}${family.toLowerCase()}; ${moods.join(', ')}; ${metres[0]}, ${tempo.low}–${tempo.high}`,
      ...(id === now ? { marked: 'in use' } : {}),
    }));
  });

  protected readonly shown = computed(() => {
    const style = this.all().find(({ id }) => id === this.current());
    return style
      ? {
          name: style.name,
          own: this.isOwn(style.id),
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
      this.silence();
    });
  }

  /** Drafts the style's band over the chords that sound, in the worker, and plays it in place of the song. */
  protected async hear(id: string): Promise<void> {
    this.current.set(id);
    const asked = ++this.asked;
    const guest = await this.guestOf(id, () => asked !== this.asked);
    if (!guest || asked !== this.asked) return;
    this.playback.stop();
    this.playback.guest.set(guest);
    await this.playback.play();
  }

  private async guestOf(
    id: string,
    stale: () => boolean,
  ): Promise<{ score: Score; takes: Record<string, Take> } | null> {
    const [score, section] = [this.score(), this.section()];
    const style = this.styleBy(id);
    if (!score || !section) return null;
    const harmony = harmonyTake(this.takes(), soundingId(section, HARMONY, this.heard()));
    const own = groundOf(score, section);
    const metre = METRES.find((candidate) => metreName(candidate) === style.metres[0]);
    // Chords fill other bars in another metre, so a style is heard in the section's own.
    const ground = {
      ...own,
      style: id,
      swing: style.swing,
      tempo: Math.min(style.tempo.high, Math.max(style.tempo.low, own.tempo)),
      metre: harmony ? own.metre : (metre ?? own.metre),
    };
    const parts = style.band.map((band, index) => partFrom(band, `heard-${index}`, index));
    const takes: Record<string, Take> = harmony ? { [harmony.id]: harmony } : {};
    const chosen: [LineId, TakeId][] = harmony ? [[HARMONY, harmony.id]] : [];
    this.working.set(true);
    for (const part of inDraftingOrder(parts)) {
      if (stale()) break;
      const listened = listenedTo(part, parts);
      const beside = listened
        ? Object.values(takes).filter((take): take is PartTake => take.of === 'part' && take.part === listened.id)
        : [];
      const asking = partAsking({ ground, bars: section.bars, kind: section.kind }, part, {
        ...(harmony ? { harmony: harmony.id } : {}),
        beside: beside.map((take) => take.id),
      });
      const request = {
        asking,
        seed: this.song().open?.seed ?? 1,
        chords: harmony?.chords ?? null,
        beside,
        ...(this.isOwn(id) ? { style } : {}),
      };
      const run = this.client.run(
        { request, from: 0, count: 1, shown: [] },
        {
          take: ({ content, attempts }) => {
            if (content.of !== 'part') return;
            const place = { id: `take-${part.id}`, section: section.id, length: sectionTicks(score, section) };
            const take = draftedTake(
              place,
              { asking, seed: request.seed, attempts },
              { of: 'part', part: part.id, notes: content.notes },
            );
            takes[take.id] = take;
            chosen.push([part.id, take.id]);
          },
          progress: () => undefined,
          refused: () => undefined,
        },
      );
      await run.done;
    }
    this.working.set(false);
    return {
      score: {
        ...withStyle(score, style),
        ground,
        parts,
        sections: [withChoices({ ...section, ground: {} }, chosen)],
        order: [{ id: 'heard', section: section.id }],
        remarks: {},
      },
      takes,
    };
  }

  private silence(): void {
    this.asked++;
    if (!this.playback.guest()) return;
    this.playback.stop();
    this.playback.guest.set(null);
  }

  protected letGo(): void {
    this.silence();
    this.current.set(null);
  }

  protected apply(): void {
    const [score, id] = [this.score(), this.current()];
    if (!score || id === null) return;
    const change = { pace: this.pace(), sounds: this.sounds(), missing: this.missing() };
    this.silence();
    this.store.dispatch(
      ScoreActions.revised({
        name: 'apply a style',
        score: applyStyle(score, this.styleBy(id), change, () => newId('part')),
        takes: [],
        released: [],
      }),
    );
  }

  protected applyToSection(): void {
    const [score, section, style] = [this.score(), this.section(), this.current()];
    if (!score || !section || style === null) return;
    this.silence();
    const sections = score.sections.map((other) => {
      if (other.id !== section.id) return other;
      const { style: _old, ...ground } = other.ground;
      return { ...other, ground: style === score.ground.style ? ground : { ...ground, style } };
    });
    this.store.dispatch(
      ScoreActions.revised({
        name: 'apply a style to a section',
        score: { ...withStyle(score, this.styleBy(style)), sections },
        takes: [],
        released: [],
      }),
    );
  }

  protected applyToPart(): void {
    const [score, part, style] = [this.score(), this.part(), this.current()];
    if (!score || !part || style === null) return;
    this.silence();
    const parts = score.parts.map((other) =>
      other.id === part.id ? { ...other, style: style === score.ground.style ? null : style } : other,
    );
    this.store.dispatch(
      ScoreActions.revised({
        name: 'apply a style to a part',
        score: { ...withStyle(score, this.styleBy(style)), parts },
        takes: [],
        released: [],
      }),
    );
  }

  /** One's own is changed, one that ships is copied first. */
  protected edit(): void {
    const id = this.current();
    if (id === null) return;
    this.silence();
    this.isNew.set(!this.isOwn(id));
    const style = this.styleBy(id);
    this.editing.set(this.isOwn(id) ? style : copyOfStyle(style, style.id, `My ${style.name.toLowerCase()}`));
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
    const style = this.styleBy(id);
    download(fileNameOf([style.name], '.fendro-style'), writeStyle(style), 'application/json');
  }

  protected remove(): void {
    const id = this.current();
    if (id === null) return;
    this.letGo();
    this.shelf.removeStyle(id);
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
