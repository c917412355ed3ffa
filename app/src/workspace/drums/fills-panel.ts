import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { ChoiceField } from '../../ui/fields/choice-field';
import { Store } from '@ngrx/store';
import { allFills, FILL_LENGTHS, placeFill, type Fill, type FillLength } from '@fendro/core/compose/fills';
import { partTake, sectionTicks, soundingId } from '@fendro/core/song/resolve';
import type { PartTake } from '@fendro/core/song/schema';
import { styleIn } from '@fendro/core/styles/styles';
import { Playback } from '../../sound/playback';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { newId } from '../../store/ids';
import {
  selectBar,
  selectGround,
  selectHeard,
  selectPart,
  selectScore,
  selectSection,
  selectTakes,
  selectView,
} from '../../store/selectors';
import { TakeActions } from '../../store/song.actions';
import { IdeaList, type Idea } from '../../ui/idea-list';
import { editedTake } from '@fendro/core/song/take';
import { sessionFeature } from '../../store/session';

const LENGTH_NAMES: Readonly<Record<FillLength, string>> = { 0.5: 'half a bar', 1: 'one bar', 2: 'two bars' };
/** Bars of groove that are heard before a fill begins. */
const RUN_UP = 1;

/** Fills one after another, each heard in the drums that play, at the section's end or before any bar. */
@Component({
  selector: 'fd-fills-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [IdeaList, ChoiceField],
  template: `
    <div class="row">
      <fd-choice-field label="Length of the fill" [choices]="lengths" [value]="bars()" (chosen)="setLength($event)" />
      <span class="quiet">{{ where() }}</span>
    </div>
    <fd-idea-list
      label="Fills"
      [ideas]="ideas()"
      [current]="current()"
      nothing="Draft or choose drums first."
      (heard)="hear($event)"
      (taken)="take()"
      (left)="letGo()"
    />
    <p class="quiet">
      ↑ ↓ hear, Enter places, Escape leaves the drums as they were. Select bars to put a fill before another bar line.
    </p>
  `,
  styleUrl: '../harmony/panels.scss',
  styles: `
    fd-idea-list {
      flex: 1;
      min-height: 120px;
    }
  `,
})
export class FillsPanel {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly playback = inject(Playback);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly ground = this.store.selectSignal(selectGround);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly selected = this.store.selectSignal(sessionFeature.selectBars);
  private readonly view = this.store.selectSignal(selectView);
  private readonly bar = this.store.selectSignal(selectBar);
  protected readonly lengths = FILL_LENGTHS.map((bars) => ({ value: bars, text: LENGTH_NAMES[bars] }));
  protected readonly bars = signal<FillLength>(1);
  protected readonly current = signal<string | null>(null);
  /** The drums as they were when trying began, and the take that is tried in their place. */
  private base: PartTake | null = null;
  private tried: PartTake | null = null;

  private readonly fills = computed(() =>
    allFills(styleIn(this.score(), this.part()?.style ?? this.ground()?.style ?? '')),
  );
  private readonly sounding = computed(() => {
    const [section, part] = [this.section(), this.part()];
    return section && part ? partTake(this.takes(), soundingId(section, part.id, this.heard())) : null;
  });
  protected readonly ideas = computed((): Idea[] =>
    this.sounding() ? this.fills().map(({ id, name, style }) => ({ id, text: name, detail: style.toLowerCase() })) : [],
  );

  /** The bar line that the fill leads up to, counted from the section's start. */
  private readonly end = computed(() => (this.selected()?.to ?? this.section()?.bars ?? 0) * this.bar());
  protected readonly where = computed(() => {
    const [bars, section] = [this.selected(), this.section()];
    return bars && section && bars.to < section.bars ? `before bar ${bars.to + 1}` : 'at the section’s end';
  });

  protected setLength(bars: FillLength): void {
    this.bars.set(bars);
    const current = this.current();
    if (current !== null) this.hear(current);
  }

  protected hear(id: string): void {
    const [score, section, part, ground, view] = [
      this.score(),
      this.section(),
      this.part(),
      this.ground(),
      this.view(),
    ];
    const fill = this.fills().find((candidate) => candidate.id === id);
    this.base ??= this.sounding();
    const base = this.base;
    if (!score || !section || !part || !ground || !fill || !base) return;
    const take = this.takeWith(fill, base, {
      metre: ground.metre,
      loudness: part.brief.loudness,
      length: sectionTicks(score, section),
    });
    this.current.set(id);
    this.tried = take;
    this.store.dispatch(TakeActions.madeAndHeard({ takes: [take], take: take.id, section: section.id, line: part.id }));
    const from = (view?.start ?? 0) + Math.max(0, this.end() - (RUN_UP + Math.ceil(this.bars())) * this.bar());
    this.playback.playIfStopped(from);
  }

  private takeWith(fill: Fill, base: PartTake, setting: Parameters<typeof placeFill>[4]): PartTake {
    const notes = placeFill(base.notes, fill, this.bars(), this.end(), setting);
    return editedTake(newId('take'), base, notes, `with the fill “${fill.name}”`);
  }

  protected take(): void {
    const tried = this.tried;
    if (tried) this.desk.choose(tried.section, tried.part, tried.id);
    this.finish();
  }

  protected letGo(): void {
    const tried = this.tried;
    if (tried) this.desk.backToChosen(tried.section, tried.part);
    this.finish();
  }

  private finish(): void {
    this.base = null;
    this.tried = null;
    this.current.set(null);
  }
}
