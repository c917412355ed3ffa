import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, signal, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatTooltip } from '@angular/material/tooltip';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { Store } from '@ngrx/store';
import { firstLoops, firstPattern, firstWandering } from '@fendro/core/patterns/first-pattern';
import { meetAgain } from '@fendro/core/patterns/loops';
import { overOf, passNotes } from '@fendro/core/patterns/pass';
import type { SettingContext } from '@fendro/core/settings/setting';
import { settingsOf } from '@fendro/core/patterns/settings/settings';
import { keyOf } from '@fendro/core/song/ground';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Note, Pattern } from '@fendro/core/song/schema';
import { drumName } from '@fendro/core/sounding/drum-names';
import { treatedNotes } from '@fendro/core/treat/treated';
import { RunsCommand } from '../../commands/runs-command';
import { CatchDesk } from '../../desks/catch-desk';
import { LoopStarts } from '../../desks/playing/loop-starts';
import { LeanDesk } from '../../desks/lean-desk';
import { PatternDesk, type PatternKind } from '../../desks/pattern-desk';
import { TakeEdits } from '../../desks/take-edits';
import { TakeView } from '../../desks/take-view';
import { selectMusic, selectPart, selectView } from '../../store/selectors';
import { widthOf } from '../../ui/canvas';
import { shapeOf } from '../../ui/note-shape';
import { sayPass } from '../../ui/say-bars';
import { nameIn } from '../../ui/spoken';
import { LeanPanel } from '../leaning/lean-panel';
import { LeanWords } from '../leaning/lean-words';
import { DrawnStrips } from './drawn-strips';
import { LoopRibbons } from './loop-ribbons';
import { PatternPicture } from './pattern-picture';
import { PatternSentence, type SettingChange } from './pattern-sentence';
import { PatternShelf } from './pattern-shelf';

/** The least that a step is wide, and the most that all of them are, in px. */
const STEP_PX = 28;
const WIDEST_PX = 12_000;
/** What the names at the left take, in px. */
const GUTTER = 196;

const SILENT: readonly Note[] = [];
const OPENINGS: Readonly<Record<PatternKind, string>> = {
  drawn: 'A pattern',
  loops: 'Loops of',
  wandering: 'Wandering',
};

/** By what the part in focus goes on by itself: drawn, changed and caught while it sounds. */
@Component({
  selector: 'fd-patterns-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    DrawnStrips,
    LeanPanel,
    LeanWords,
    LoopRibbons,
    MatButton,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    PatternPicture,
    PatternSentence,
    PatternShelf,
    MatTooltip,
    RunsCommand,
  ],
  templateUrl: './patterns-drawer.html',
  styleUrls: ['../drawer.scss', './patterns-drawer.scss'],
})
export class PatternsDrawer {
  private readonly store = inject(Store);
  protected readonly desk = inject(PatternDesk);
  protected readonly catching = inject(CatchDesk);
  protected readonly starts = inject(LoopStarts);
  private readonly edits = inject(TakeEdits);
  private readonly takes = inject(TakeView);
  private readonly music = this.store.selectSignal(selectMusic);
  protected readonly view = this.store.selectSignal(selectView);
  protected readonly part = this.store.selectSignal(selectPart);
  private readonly page = viewChild<ElementRef<HTMLElement>>('page');
  protected readonly room = widthOf(this.page);
  protected readonly gutter = GUTTER;
  protected readonly openings = OPENINGS;
  protected readonly leaning = inject(LeanDesk);
  /** True while words that lean it are offered. */
  protected readonly leans = signal(false);
  /** True while patterns of the shelf are shown. */
  protected readonly shelved = signal(false);
  protected readonly colour = computed(() => `var(--part-${this.part()?.colour ?? 0})`);
  protected readonly drums = computed(() => isDrumRole(this.part()?.role ?? 'melody'));
  protected readonly shape = computed(() => shapeOf(this.part()?.colour ?? 0, this.drums()));

  protected readonly title = computed(() => {
    const id = this.edits.soundingId();
    return id === null ? 'nothing is played here yet' : this.takes.nameOf(id);
  });
  protected readonly pass = computed(() => sayPass(this.catching.pass()));

  protected readonly over = computed(() => {
    const [music, section] = [this.music(), this.view()?.section];
    return music && section ? overOf(music, section, this.catching.pass()) : null;
  });
  protected readonly notes = computed((): readonly Note[] => {
    const [music, section, take, pass] = [this.music(), this.view()?.section, this.edits.take(), this.catching.pass()];
    if (!music || !section || !take) return SILENT;
    const notes = passNotes(music, section, take, pass);
    return treatedNotes(notes, take, this.part() ?? undefined, { music, section, pass });
  });

  protected readonly sayPitch = computed(() => {
    const [over, drums] = [this.over(), this.drums()];
    const key = over ? keyOf(over.ground) : { tonic: 0, scale: 'major' };
    return drums ? drumName : (pitch: number): string => nameIn(key, pitch);
  });
  private readonly context = computed((): SettingContext => {
    const over = this.over();
    return { key: over ? keyOf(over.ground) : { tonic: 0, scale: 'major' }, sayPitch: this.sayPitch() };
  });
  protected readonly key = computed(() => this.context().key);
  protected readonly settings = computed(() => {
    const pattern = this.desk.pattern();
    return pattern ? settingsOf(pattern, this.context()) : [];
  });
  /** Its words that have just been moved by one that leans. */
  protected readonly moved = computed((): ReadonlySet<string> => {
    const before = this.leaning.before();
    const was = new Map((before ? settingsOf(before, this.context()) : []).map(({ id, value }) => [id, value]));
    return new Set(this.settings().flatMap(({ id, value }) => (before && was.get(id) !== value ? [id] : [])));
  });
  /** The settings that such a pattern comes with. */
  protected readonly usual = computed(() => {
    const [pattern, part] = [this.desk.pattern(), this.part()];
    return pattern && part ? settingsOf(FIRST[pattern.of](part, 0), this.context()) : [];
  });

  /** How long it takes until all loops begin together again, in words. */
  protected readonly meets = computed(() => {
    const [pattern, over] = [this.desk.pattern(), this.over()];
    if (pattern?.of !== 'loops' || !over) return '';
    if (pattern.starts !== 'never') return '';
    const ticks = meetAgain(pattern);
    if (ticks === null) return 'One of them goes by chance: they meet when they do.';
    const bars = Math.round((100 * ticks) / over.bar) / 100;
    return `All meet again after ${bars} ${bars === 1 ? 'bar' : 'bars'}.`;
  });

  /** Px of a tick: steps are wide enough to be drawn, and the section fills the page where it is short. */
  protected readonly scale = computed(() => {
    const [over, pattern] = [this.over(), this.desk.pattern()];
    if (!over || !pattern) return 1;
    const room = Math.max(1, this.room() - GUTTER);
    const shortest = shortestStep(pattern);
    return Math.max(room / over.length, Math.min(STEP_PX / shortest, WIDEST_PX / over.length));
  });
  protected readonly width = computed(() => Math.ceil((this.over()?.length ?? 0) * this.scale()));

  protected change({ id, label, to }: SettingChange): void {
    const change = (pattern: Pattern): Pattern => {
      const setting = settingsOf(pattern, this.context()).find((own) => own.id === id);
      const value = setting && to(setting);
      return setting && value !== undefined && value !== setting.value ? setting.set(value) : pattern;
    };
    this.desk.edit(`set ${label.toLowerCase()}`, change, `set ${id}`);
  }
}

const FIRST = { drawn: firstPattern, loops: firstLoops, wandering: firstWandering } as const;

function shortestStep(pattern: Pattern): number {
  if (pattern.of === 'drawn') return pattern.rate;
  return pattern.of === 'loops' ? Math.min(...pattern.loops.map(({ rate }) => rate)) : Number.POSITIVE_INFINITY;
}
