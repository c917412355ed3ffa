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
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { groundOf } from '@fendro/core/song/ground';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { HARMONY, ROLES, type LineId, type Part, type PartId, type SectionId } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { clashes } from '@fendro/core/song/fit';
import { LIMITS } from '@fendro/core/song/limits';
import { isDrumRole, isLine, roleOf } from '@fendro/core/song/roles';
import { writtenNotes } from '@fendro/core/sounding/stages';
import { noteRoles, type NoteRole } from '@fendro/core/study/note-roles';
import { metreName, metricalWeight, WEIGHT } from '@fendro/core/theory/metre';
import { printedName } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import type { Ticks } from '@fendro/core/theory/units';
import { Playback } from '../sound/playback';
import { InRegion } from '../commands/regions';
import { RunsCommand } from '../commands/runs-command';
import { DRAWER_IDS, DRAWERS } from '../drawers/registry';
import { BandDesk } from '../desks/band-desk';
import { SheetDesk } from '../desks/sheet-desk';
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
  selectSession,
  selectTakes,
  selectView,
} from '../store/selectors';
import { SessionActions } from '../store/session';
import { ScoreActions } from '../store/song.actions';
import { NotePicture, shapeOf } from '../ui/note-picture';
import { systemsOf, type System } from './bar-geometry';
import { BarsStrip } from './bars-strip';
import { ChordRow } from './chord-row';
import { ChordTools } from './harmony/chord-tools';
import { SectionGround } from './section-ground';

/** One and the same empty list, so that pictures without marks are not drawn again. */
const NO_MARKS: readonly number[] = [];
const NO_ROLES: readonly NoteRole[] = [];
const someOf = (marks: readonly number[]): readonly number[] => (marks.length > 0 ? marks : NO_MARKS);

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
    ChordRow,
    ChordTools,
    SectionGround,
    BarsStrip,
    InRegion,
    RunsCommand,
    MatButton,
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
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly section = this.store.selectSignal(selectSection);
  protected readonly view = this.store.selectSignal(selectView);
  protected readonly chords = this.store.selectSignal(selectChords);
  protected readonly line = this.store.selectSignal(selectLine);
  protected readonly session = this.store.selectSignal(selectSession);
  protected readonly heardChoices = this.store.selectSignal(selectHeardChoices);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly placed = this.store.selectSignal(selectPlaced);

  protected readonly HARMONY = HARMONY;
  protected readonly drawers = DRAWER_IDS.map((id) => ({ id, name: DRAWERS[id].name }));
  protected readonly roles = ROLES.map((role) => ({ role, name: roleOf(role).name }));
  protected readonly bar = this.store.selectSignal(selectBar);
  protected readonly ownGroundOpen = signal(false);
  /** What sets the section's ground apart from the song's. */
  protected readonly ownGround = computed(() => {
    const own = this.section()?.ground ?? {};
    const key = own.tonic === undefined && own.scale === undefined ? [] : [this.keyText()];
    return [...key, ...(own.metre ? [metreName(own.metre)] : []), ...(own.tempo ? [`♩ = ${own.tempo}`] : [])].join(
      ', ',
    );
  });
  protected readonly systems = computed(() => {
    const [section, score] = [this.section(), this.score()];
    return section && score ? systemsOf(section, score) : [];
  });
  protected readonly cursor = computed(() => this.session().cursor);
  private dragFrom: number | null = null;
  private readonly body = viewChild.required<ElementRef<HTMLElement>>('body');
  private readonly head = viewChild.required<ElementRef<HTMLElement>>('head');

  protected readonly lanes = computed(() => {
    const [section, music] = [this.section(), this.music()];
    if (!section || !music) return [];
    const { score } = music;
    const { metre } = groundOf(score, section);
    const onBeat = (at: Ticks): boolean => metricalWeight(metre, at) >= WEIGHT.beat;
    return score.parts
      .map((part) => ({ part, notes: writtenNotes(music, section, part.id) }))
      .map(({ part, notes }) => ({
        part,
        notes,
        // Only what stays put when chords change can rub against them unasked.
        clashes:
          isDrumRole(part.role) || this.follows(section.id, part.id)
            ? NO_MARKS
            : someOf(clashes(notes, this.chords(), onBeat)),
        roles:
          this.session().rolesShown && part.id === this.line() && isLine(part.role)
            ? noteRoles(notes, this.chords(), metre)
            : NO_ROLES,
        shape: shapeOf(part.colour, isDrumRole(part.role)),
        tentative: this.heard()[section.id]?.[part.id] !== undefined,
        instrument: instrumentOf(part.instrument).name,
      }));
  });

  private keyText(): string {
    const [score, section] = [this.score(), this.section()];
    if (!score || !section) return '';
    const { tonic, scale } = groundOf(score, section);
    return `${printedName(tonic)} ${scaleOf(scale).name.toLowerCase()}`;
  }

  /** True for takes that chords carry along by themselves. */
  private follows(section: SectionId, part: PartId): boolean {
    const now = this.section();
    const take = now?.id === section ? partTake(this.takes(), soundingId(now, part, this.heard())) : null;
    return take?.over !== null;
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
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      destroyed.onDestroy(
        this.playback.watch((tick) => {
          this.moveHead(tick);
        }),
      );
    });
  }

  /** Puts the position mark over the bar that sounds; in song mode the sheet turns to the section that plays. */
  private moveHead(tick: Ticks | null): void {
    const head = this.head().nativeElement;
    const view = this.view();
    if (tick === null || !view) {
      head.hidden = true;
      return;
    }
    const place = this.placed().findLast(({ start }) => start <= tick);
    if (place && place.occurrence.id !== view.occurrence.id && !this.session().looping)
      this.store.dispatch(SessionActions.occurrenceViewed({ occurrence: place.occurrence.id }));
    const inSection = tick - view.start;
    const index = this.systems().findIndex(({ from, to }) => inSection >= from && inSection < to);
    const row = this.body().nativeElement.querySelectorAll<HTMLElement>('.rows')[index];
    const system = this.systems()[index];
    head.hidden = !row || !system;
    if (!row || !system) return;
    const body = this.body().nativeElement;
    const [box, frame] = [row.getBoundingClientRect(), body.getBoundingClientRect()];
    const x = box.left - frame.left + (box.width * (inSection - system.from)) / system.room;
    head.style.transform = `translate(${x}px, ${box.top - frame.top + body.scrollTop}px)`;
    head.style.height = `${box.height}px`;
  }

  /** Selected stretch inside a system, in % of its width; null when there is none. */
  protected shade(system: System): { left: number; width: number } | null {
    const bars = this.session().bars;
    if (!bars) return null;
    const perSystem = system.room / this.bar();
    const from = Math.max(bars.from, system.firstBar);
    const to = Math.min(bars.to, system.firstBar + system.bars);
    return to <= from
      ? null
      : { left: (100 * (from - system.firstBar)) / perSystem, width: (100 * (to - from)) / perSystem };
  }

  /** Beside the selection, in the first system that it reaches; to the left of its end where there is no room behind. */
  protected stripAt(system: System): { readonly left: number; readonly leftwards: boolean } | null {
    const bars = this.session().bars;
    const shade = this.shade(system);
    if (!bars || !shade || bars.from < system.firstBar) return null;
    const leftwards = shade.left > 45;
    return { left: leftwards ? shade.left + shade.width : shade.left, leftwards };
  }

  protected lanePart(line: Part): string {
    return `${line.name}, ${instrumentOf(line.instrument).name}`;
  }

  protected press(event: PointerEvent, system: System, line: LineId): void {
    this.desk.focusLine(line);
    const bar = this.barAt(event, system);
    // With Shift, from where the cursor stood.
    this.dragFrom = event.shiftKey ? this.session().cursor : bar;
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
    const bar = this.barIn(event.clientX, row, system);
    if (bar !== this.dragFrom || this.session().bars) this.desk.select(this.dragFrom, bar);
  }

  protected release(): void {
    this.dragFrom = null;
  }

  private barAt(event: PointerEvent, system: System): number {
    const row = (event.currentTarget as HTMLElement).closest<HTMLElement>('.rows');
    return row ? this.barIn(event.clientX, row, system) : 0;
  }

  private barIn(clientX: number, row: HTMLElement, system: System): number {
    const box = row.getBoundingClientRect();
    const inRow = Math.floor(((clientX - box.left) / box.width) * (system.room / this.bar()));
    return system.firstBar + Math.max(0, Math.min(system.bars - 1, inRow));
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
