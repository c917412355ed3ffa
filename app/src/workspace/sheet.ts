import {
  afterNextRender,
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { TextField } from '../ui/fields/text-field';
import { NumberField } from '../ui/fields/number-field';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { groundOf } from '@fendro/core/song/ground';
import { HARMONY, ROLES, type Part, type TakeNote } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { LIMITS } from '@fendro/core/song/limits';
import { leadOf } from '@fendro/core/song/pick-up';
import { endTempoOf } from '@fendro/core/song/tempos';
import { roleOf } from '@fendro/core/song/roles';
import { metreText } from '@fendro/core/theory/metre';
import { printedName } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { clamp } from '@fendro/core/theory/units';
import { Playback } from '../sound/playback';
import type { Position } from '../sound/position-watch';
import { InRegion } from '../commands/regions';
import { RunsCommand } from '../commands/runs-command';
import { DRAWER_IDS, DRAWERS } from '../drawers/registry';
import { BandDesk } from '../desks/band-desk';
import { CompareDesk } from '../desks/compare-desk';
import { NotesDesk } from '../desks/notes-desk';
import { SheetDesk } from '../desks/sheet-desk';
import { VersionsDesk } from '../desks/versions-desk';
import {
  selectBar,
  selectChords,
  selectHeard,
  selectHeardChoices,
  selectLine,
  selectMusic,
  selectPlaced,
  selectScore,
  selectSection,
  selectTakes,
  selectView,
} from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { ScoreActions } from '../store/song.actions';
import { growing } from '../ui/growing';
import { MovingMark } from '../ui/moving-mark';
import { revealOneIn } from '../ui/reveal';
import { HeldHatch } from '../ui/held-hatch';
import { NotePicture } from '../ui/note-picture';
import { sameItems } from '../ui/same-items';
import { tickUnder, timeScale } from '../ui/time-scale';
import { percentIn, systemsOf, type System } from './bar-geometry';
import { PickUps } from './pick-ups';
import { BarsStrip } from './bars-strip';
import { ChordRow } from './chord-row';
import { laneSelector, type Lane } from './lanes';
import { ChordTools } from './harmony/chord-tools';
import { PlaceLine } from './place-line';
import { RestShade } from './rest-shade';
import { SectionGround } from './section-ground';
import { SectionVersions } from './section-versions';

const NO_PICKS: readonly number[] = [];

/** The section in view as a score: chords over bars, a lane for each part below. */
@Component({
  selector: 'fd-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    MatTooltip,
    NotePicture,
    HeldHatch,
    ChordRow,
    ChordTools,
    SectionGround,
    SectionVersions,
    PickUps,
    PlaceLine,
    RestShade,
    BarsStrip,
    InRegion,
    RunsCommand,
    MatButton,
    MatIconButton,
    MatIcon,
    NumberField,
    TextField,
  ],
  templateUrl: './sheet.html',
  styleUrl: './sheet.scss',
})
export class Sheet {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  protected readonly desk = inject(SheetDesk);
  protected readonly band = inject(BandDesk);
  protected readonly compare = inject(CompareDesk);
  protected readonly versions = inject(VersionsDesk);
  private readonly notes = inject(NotesDesk);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly section = this.store.selectSignal(selectSection);
  protected readonly view = this.store.selectSignal(selectView);
  protected readonly chords = this.store.selectSignal(selectChords);
  protected readonly line = this.store.selectSignal(selectLine);
  protected readonly cursor = this.store.selectSignal(sessionFeature.selectCursor);
  private readonly drawer = this.store.selectSignal(sessionFeature.selectDrawer);
  protected readonly rolesShown = this.store.selectSignal(sessionFeature.selectRolesShown);
  protected readonly looping = this.store.selectSignal(sessionFeature.selectLooping);
  protected readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  protected readonly heardChoices = this.store.selectSignal(selectHeardChoices);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly placed = this.store.selectSignal(selectPlaced);

  protected readonly HARMONY = HARMONY;
  /** The whole song is opened from the running order. */
  protected readonly drawers = DRAWER_IDS.filter((id) => id !== 'overview').map((id) => ({
    id,
    name: DRAWERS[id].name,
  }));
  protected readonly roles = ROLES.map((role) => ({ role, name: roleOf(role).name }));
  protected readonly bar = this.store.selectSignal(selectBar);
  protected readonly ownGroundOpen = signal(false);
  /** What sets the section's ground apart from the song's. */
  protected readonly ownGround = computed(() => {
    const own = this.section()?.ground ?? {};
    const key = own.tonic === undefined && own.scale === undefined ? [] : [this.keyText()];
    const [score, section] = [this.score(), this.section()];
    const end = score && section ? endTempoOf(score, section) : null;
    return [
      ...key,
      ...(own.metre ? [metreText(own.metre)] : []),
      ...(own.tempo ? [`♩ = ${own.tempo}`] : []),
      ...(end ? [`to ♩ = ${end.tempo}`] : []),
    ].join(', ');
  });
  protected readonly systems = computed(() => {
    const [section, score] = [this.section(), this.score()];
    return section && score ? systemsOf(section, score) : [];
  });
  /** One row of bars a picture: many at once would hold the page up. */
  protected readonly shownSystems = growing(this.systems, 1, () => this.section()?.id);
  private dragFrom: number | null = null;
  private readonly body = viewChild.required<ElementRef<HTMLElement>>('body');
  private readonly head = viewChild.required<ElementRef<HTMLElement>>('head');
  private readonly mark = computed(() => new MovingMark(this.head().nativeElement));

  private readonly partIds = computed(() => this.score()?.parts.map(({ id }) => id) ?? [], { equal: sameItems });
  /** Each lane by itself, so that one that changes leaves the others alone. */
  private readonly eachLane = computed(() => this.partIds().map((id) => this.store.selectSignal(laneSelector(id))));
  protected readonly lanes = computed(() => this.eachLane().flatMap((lane) => lane() ?? []), { equal: sameItems });
  /** How long before the first bar anything begins; a bar is seen of it at most. */
  protected readonly lead = computed(() =>
    Math.min(this.bar(), Math.max(0, ...this.lanes().map(({ notes }) => leadOf(notes)))),
  );

  private keyText(): string {
    const [score, section] = [this.score(), this.section()];
    if (!score || !section) return '';
    const { tonic, scale } = groundOf(score, section);
    return `${printedName(tonic)} ${scaleOf(scale).name.toLowerCase()}`;
  }

  protected readonly chordsTentative = computed(() => {
    const section = this.section();
    return section ? this.heard()[section.id]?.[HARMONY] !== undefined : false;
  });

  protected readonly empty = computed(
    () => this.chords().length === 0 && this.lanes().every(({ notes }) => notes.length === 0),
  );

  constructor() {
    // The focus goes along with the keys that move over the names of parts.
    afterRenderEffect(() => {
      this.line();
      const body = this.body().nativeElement;
      if (document.activeElement?.matches('.part-name') && body.contains(document.activeElement))
        body.querySelector<HTMLElement>('.part-name[tabindex="0"]')?.focus();
    });
    // What a drawer is opened for stays in sight above it.
    afterRenderEffect(() => {
      this.line();
      this.drawer();
      const body = this.body().nativeElement;
      revealOneIn(body, [...body.querySelectorAll<HTMLElement>('.lane.focus')]);
    });
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      destroyed.onDestroy(
        this.playback.watch((position) => {
          this.moveHead(position);
        }),
      );
    });
  }

  /** Puts the position mark over the bar that sounds; in song mode the sheet turns to the section that plays. */
  private moveHead(position: Position | null): void {
    const view = this.view();
    const place = position && this.placed().findLast(({ start }) => start <= position.tick);
    if (place && place.occurrence.id !== view?.occurrence.id && !this.looping())
      this.store.dispatch(SessionActions.occurrenceViewed({ occurrence: place.occurrence.id }));
    const inSection = position && view ? position.tick - view.start : -1;
    const index = this.systems().findIndex(({ from, to }) => inSection >= from && inSection < to);
    const system = this.systems()[index];
    const body = this.body().nativeElement;
    const row = body.querySelectorAll<HTMLElement>('.rows')[index];
    if (!position || !system || !row) {
      this.mark().hide();
      return;
    }
    const [box, frame] = [row.getBoundingClientRect(), body.getBoundingClientRect()];
    const x = timeScale(system.from, system.from + system.room, box.width);
    const left = box.left - frame.left;
    this.mark().show(
      {
        from: left + x(system.from),
        to: left + x(system.to),
        top: box.top - frame.top + body.scrollTop,
        height: box.height,
      },
      (inSection - system.from) / (system.to - system.from),
      (system.to - system.from) / position.speed,
    );
  }

  /** Selected stretch inside a system, in % of its width; null when there is none. */
  protected shade(system: System): { left: number; width: number } | null {
    const bars = this.bars();
    if (!bars) return null;
    const from = Math.max(bars.from, system.firstBar) * this.bar();
    const to = Math.min(bars.to, system.firstBar + system.bars) * this.bar();
    const percent = percentIn(system);
    return to <= from ? null : { left: percent(from), width: percent(to) - percent(from) };
  }

  /** Where the strip of the selection begins, in %, in the first system that it reaches; further left where it must. */
  protected stripAt(system: System): number | null {
    const bars = this.bars();
    const shade = this.shade(system);
    return !bars || !shade || bars.from < system.firstBar ? null : shade.left;
  }

  /** Where the cursor's bar lies in a system, in %. */
  protected cursorIn(system: System): { readonly left: number; readonly width: number } | null {
    const at = this.cursor() * this.bar();
    const percent = percentIn(system);
    return at >= system.from && at < system.to
      ? { left: percent(at), width: percent(at + this.bar()) - percent(at) }
      : null;
  }

  protected widthOf(system: System): number {
    return percentIn(system)(system.to);
  }

  protected lanePart(line: Part): string {
    return `${line.name}, ${instrumentOf(line.instrument).name}`;
  }

  /** Places of the picked notes in the list of a lane's notes. */
  protected pickedIn({ notes }: Lane): readonly number[] {
    const ids = this.notes.meant();
    return ids.size === 0 ? NO_PICKS : notes.flatMap((note, index) => (ids.has((note as TakeNote).id) ? [index] : []));
  }

  protected press(
    event: PointerEvent,
    system: System,
    { part: { id: line }, notes }: Lane,
    picture: NotePicture,
  ): void {
    const hit = line === this.line() ? picture.noteAt(event) : null;
    this.desk.focusLine(line);
    const more = event.shiftKey || event.ctrlKey || event.metaKey;
    if (hit === null) this.notes.letGo();
    else {
      this.notes.pick((notes[hit] as TakeNote).id, more);
      if (more) return;
    }
    const bar = this.barAt(event, system);
    // With Shift, from where the cursor stood.
    this.dragFrom = event.shiftKey ? this.cursor() : bar;
    if (event.shiftKey) this.desk.select(this.dragFrom, bar);
    else this.desk.letSelectionGo();
    this.store.dispatch(SessionActions.cursorMoved({ bar }));
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  }

  protected drag(event: PointerEvent): void {
    if (this.dragFrom === null) return;
    const row = document
      .elementsFromPoint(event.clientX, event.clientY)
      .map((element) => element.closest<HTMLElement>('.rows'))
      .find((found) => found);
    const system = row ? this.systems()[Number(row.dataset['system'])] : undefined;
    if (!row || !system) return;
    const bar = this.barIn(event, row, system);
    if (bar === this.dragFrom && !this.bars()) return;
    // A drag over bars means the bars, though it began on a note.
    this.notes.letGo();
    this.desk.select(this.dragFrom, bar);
  }

  protected release(): void {
    this.dragFrom = null;
  }

  protected openCloseUp(): void {
    if (this.drawer() !== 'close-up') this.store.dispatch(SessionActions.drawerToggled({ drawer: 'close-up' }));
  }

  private barAt(event: PointerEvent, system: System): number {
    const row = (event.currentTarget as HTMLElement).closest<HTMLElement>('.rows');
    return row ? this.barIn(event, row, system) : 0;
  }

  private barIn(event: PointerEvent, row: HTMLElement, system: System): number {
    const tick = tickUnder(event, row.getBoundingClientRect(), system.from, system.from + system.room);
    return clamp(Math.floor(tick / this.bar()), system.firstBar, system.firstBar + system.bars - 1);
  }

  protected readonly barsBounds = { least: 1, most: LIMITS.bars };
  protected readonly barsTold = `A section has 1 to ${LIMITS.bars} bars, as a whole number; it stays as it was.`;

  protected rename(name: string): void {
    const section = this.section();
    if (section) this.store.dispatch(ScoreActions.sectionChanged({ section: section.id, change: { name } }));
  }

  protected setBars(bars: number): void {
    const section = this.section();
    if (section) this.store.dispatch(ScoreActions.sectionChanged({ section: section.id, change: { bars } }));
  }

  protected readonly LIMITS = LIMITS;
}
