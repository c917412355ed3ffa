import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { ENGINE } from '@fendro/core/compose/engine';
import { groundOf } from '@fendro/core/song/ground';
import { harmonyTake, sectionTicks, soundingId } from '@fendro/core/song/resolve';
import { draftingRank, LISTENS_TO } from '@fendro/core/song/roles';
import { HARMONY, type Asking, type PartTake, type Score, type Take } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { applyStyle, partFrom } from '@fendro/core/styles/band';
import { findStyles } from '@fendro/core/styles/find';
import { STYLES, styleOf } from '@fendro/core/styles/styles';
import { metreName, METRES } from '@fendro/core/theory/metre';
import { scaleOf } from '@fendro/core/theory/scale';
import { Playback } from '../sound/playback';
import { newId } from '../state/ids';
import { selectHeard, selectOwnScore, selectPart, selectSection, selectSong, selectTakes } from '../state/selectors';
import { SessionActions } from '../state/session';
import { ScoreActions } from '../state/song.actions';
import { Icon } from '../ui/icon';
import { IdeaList, type Idea } from '../ui/idea-list';
import { DraftClient } from '../work/draft-client';

/** Styles by words and tempo, each heard over the section's own chords before anything is changed. */
@Component({
  selector: 'fd-styles-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Icon, IdeaList],
  template: `
    <section class="drawer" data-region="drawer" aria-label="Styles">
      <header>
        <h2>Styles</h2>
        <input #words class="field find" type="search" aria-label="Find styles by words" placeholder="latin bright 100" [value]="query()" (input)="query.set(words.value)" />
        <span class="quiet" role="status">{{ working() ? 'drafting its band …' : ideas().length + ' found' }}</span>
        <span class="gap"></span>
        <button class="button bare small" aria-label="Close the styles" (click)="close()"><fd-icon name="close" /></button>
      </header>
      <div class="columns">
        <fd-idea-list label="Styles" [ideas]="ideas()" [current]="current()" nothing="No style by these words. Try a family, a mood, a metre or a tempo." (heard)="hear($event)" (taken)="apply()" (left)="letGo()" />
        <div class="side">
          @if (shown(); as shown) {
            <p><b>{{ shown.name }}</b>, at home in {{ shown.metres }} at {{ shown.tempo }}, in {{ shown.scales }}.</p>
            <p class="quiet">Its band: {{ shown.band }}.</p>
            <div class="row">
              <label><input type="checkbox" [checked]="pace()" (change)="pace.set(!pace())" /> its tempo and metre</label>
              <label><input type="checkbox" [checked]="sounds()" (change)="sounds.set(!sounds())" /> its instruments and levels</label>
              <label><input type="checkbox" [checked]="missing()" (change)="missing.set(!missing())" /> parts that I lack</label>
            </div>
            <div class="row">
              <button class="button small primary" (click)="apply()">Apply to the song</button>
              <button class="button small" (click)="applyToSection()">Only to {{ section()?.name }}</button>
              @if (part(); as part) { <button class="button small" (click)="applyToPart()">Only to {{ part.name }}</button> }
            </div>
            <p class="quiet">What is there stays; what you draft from now on is in the style. Escape stops listening.</p>
          } @else { <p class="quiet">↑ and ↓ hear a style’s band over this section’s chords. Nothing changes until you apply one.</p> }
        </div>
      </div>
    </section>
  `,
  styleUrl: './drawer.scss',
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

  protected readonly ideas = computed((): Idea[] => {
    const now = this.score()?.ground.style;
    return findStyles(this.query()).map(({ id, name, family, moods, tempo, metres }) => ({ id, text: name, detail: `${family.toLowerCase()}; ${moods.join(', ')}; ${metres[0]}, ${tempo.low}–${tempo.high}`, marked: id === now }));
  });

  protected readonly shown = computed(() => {
    const style = STYLES.find(({ id }) => id === this.current());
    return style ? { name: style.name, metres: style.metres.join(', '), tempo: `${style.tempo.low}–${style.tempo.high}`, scales: style.scales.map((id) => scaleOf(id).name.toLowerCase()).join(', '), band: style.band.map(({ name, instrument }) => `${name} (${instrumentOf(instrument).name.toLowerCase()})`).join(', ') } : null;
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => { this.silence(); });
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

  private async guestOf(id: string, stale: () => boolean): Promise<{ score: Score; takes: Record<string, Take> } | null> {
    const [score, section] = [this.score(), this.section()];
    const style = styleOf(id);
    if (!score || !section) return null;
    const harmony = harmonyTake(this.takes(), soundingId(section, HARMONY, this.heard()));
    const own = groundOf(score, section);
    const metre = METRES.find((candidate) => metreName(candidate) === style.metres[0]);
    // Chords fill other bars in another metre, so a style is heard in the section's own.
    const ground = { ...own, style: id, swing: style.swing, tempo: Math.min(style.tempo.high, Math.max(style.tempo.low, own.tempo)), metre: harmony ? own.metre : (metre ?? own.metre) };
    const parts = style.band.map((band, index) => partFrom(band, `heard-${index}`, index));
    const takes: Record<string, Take> = harmony ? { [harmony.id]: harmony } : {};
    const chosen: Record<string, string> = {};
    this.working.set(true);
    for (const part of [...parts].sort((a, b) => draftingRank(a.role) - draftingRank(b.role))) {
      if (stale()) break;
      const listened = parts.find(({ role }) => role === LISTENS_TO[part.role]);
      const beside = listened ? Object.values(takes).filter((take): take is PartTake => take.of === 'part' && take.part === listened.id) : [];
      const asking: Asking = { engine: ENGINE, ground, bars: section.bars, kind: section.kind, role: part.role, brief: part.brief, ...(harmony ? { harmony: harmony.id } : {}), beside: beside.map((take) => take.id) };
      const request = { asking, seed: this.song().open?.seed ?? 1, chords: harmony?.chords ?? null, beside };
      const run = this.client.run({ request, from: 0, count: 1, shown: [] }, {
        take: ({ content, attempt }) => {
          if (content.of !== 'part') return;
          const take: PartTake = { id: `take-${part.id}`, of: 'part', part: part.id, section: section.id, length: sectionTicks(score, section), notes: content.notes, origin: { how: 'drafted', asking, seed: 1, attempt, parents: [] } };
          takes[take.id] = take;
          chosen[part.id] = take.id;
        },
        progress: () => undefined,
        refused: () => undefined,
      });
      await run.done;
    }
    this.working.set(false);
    return { score: { ...score, ground, parts, sections: [{ ...section, ground: {}, harmony: harmony?.id ?? null, chosen }], order: [{ id: 'heard', section: section.id }], remarks: {} }, takes };
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
    this.store.dispatch(ScoreActions.revised({ name: 'apply a style', score: applyStyle(score, styleOf(id), change, () => newId('part')), takes: [], released: [] }));
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
    this.store.dispatch(ScoreActions.revised({ name: 'apply a style to a section', score: { ...score, sections }, takes: [], released: [] }));
  }

  protected applyToPart(): void {
    const [score, part, style] = [this.score(), this.part(), this.current()];
    if (!score || !part || style === null) return;
    this.silence();
    const parts = score.parts.map((other) => (other.id === part.id ? { ...other, style: style === score.ground.style ? null : style } : other));
    this.store.dispatch(ScoreActions.revised({ name: 'apply a style to a part', score: { ...score, parts }, takes: [], released: [] }));
  }

  protected close(): void {
    this.store.dispatch(SessionActions.drawerToggled({ drawer: 'styles' }));
  }
}
