import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import type { ListRange } from '@angular/cdk/collections';
import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuContent, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { Store } from '@ngrx/store';
import { partTake } from '@fendro/core/song/resolve';
import type { Take, TakeId } from '@fendro/core/song/schema';
import { TAKE_ORDERS, type TakeOrder } from '@fendro/core/study/take-order';
import { isLine } from '@fendro/core/song/roles';
import { groundOf } from '@fendro/core/song/ground';
import { RunsCommand } from '../commands/runs-command';
import { Notices } from '../store/notices';
import { DraftRuns } from '../desks/draft-runs';
import { BLENDS, Redrafting, SHARES, type Blend } from '../desks/redrafting';
import { UnheardDesk } from '../desks/unheard-desk';
import { Putting } from '../desks/shelf/putting';
import { AuditionDesk } from '../desks/audition-desk';
import { TakeView } from '../desks/take-view';
import {
  selectChords,
  selectLine,
  selectLineTakes,
  selectPart,
  selectScore,
  selectSection,
  selectTakes,
} from '../store/selectors';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { SearchField } from '../ui/fields/search-field';
import { TextField } from '../ui/fields/text-field';
import { HeardList, HeardOption } from '../ui/heard-list';
import { ROLE_SIGNS, signPath } from '../ui/role-marks';
import { chordFactsText, partFactsText } from './take-facts';
import { MotifMenu } from './motif-menu';
import { BARS_IN_LINE, TakeRow } from './take-row';
import { sessionFeature } from '../store/session';

/** Ways of crossing the heard take with another, which is named after them. */
const BLEND_WORDS: Readonly<Record<Blend, string>> = {
  rhythm: 'Its rhythm, pitches of',
  pitches: 'Its pitches, rhythm of',
  bars: 'Bars in turn with',
  halfway: 'Halfway to',
};

/** Heights of a row, in px. */
const [GAP, LEAST_HEIGHT, LINE_HEIGHT, LINES_MARGIN, CAPTION_HEIGHT] = [4, 52, 22, 8, 14];

/** Scrolls a list no further than a row of it needs. @param top, height in px of the whole list */
function bringIntoSight(list: CdkVirtualScrollViewport, top: number, height: number): void {
  const [from, room] = [list.measureScrollOffset(), list.getViewportSize()];
  if (room === 0) return;
  if (top < from) list.scrollToOffset(top);
  else if (top + height > from + room) list.scrollToOffset(top + height - room);
}

/** The takes of the line in focus, one below the other: up and down hear them, Enter chooses. */
@Component({
  selector: 'fd-take-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    CdkFixedSizeVirtualScroll,
    CdkVirtualForOf,
    CdkVirtualScrollViewport,
    HeardList,
    HeardOption,
    TakeRow,
    MotifMenu,
    TextField,
    ChoiceField,
    SearchField,
    MatIconButton,
    MatMenu,
    MatMenuContent,
    MatMenuItem,
    MatMenuTrigger,
    RunsCommand,
    MatButton,
    MatIcon,
  ],
  host: { '(keydown.escape)': 'leave($event)' },
  templateUrl: './take-list.html',
  styleUrl: './take-list.scss',
})
export class TakeList {
  private readonly store = inject(Store);
  protected readonly audition = inject(AuditionDesk);
  protected readonly view = inject(TakeView);
  private readonly runs = inject(DraftRuns);
  private readonly redrafting = inject(Redrafting);
  private readonly unheard = inject(UnheardDesk);
  private readonly putting = inject(Putting);
  private readonly notices = inject(Notices);
  private readonly rolesShown = this.store.selectSignal(sessionFeature.selectRolesShown);
  private readonly ledger = this.store.selectSignal(selectTakes);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly section = this.store.selectSignal(selectSection);
  protected readonly part = this.store.selectSignal(selectPart);
  protected readonly sounding = this.audition.sounding;
  protected readonly chords = this.store.selectSignal(selectChords);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly ofLine = this.store.selectSignal(selectLineTakes);

  protected readonly takes = this.view.shown;
  private readonly list = viewChild(CdkVirtualScrollViewport);
  /** The rows that are on the page, of many that may be there. */
  private readonly range = signal<ListRange>({ start: 0, end: 0 });
  /** The heard take and its place, which were brought into sight last. */
  private inSight = '';
  protected readonly gap = GAP;
  /** Whether any take says what it was made of, or has a name. */
  private readonly captioned = computed(() => this.takes().some((take) => this.view.captionOf(take) !== ''));
  /** A progression has a line for every four bars. */
  protected readonly rowHeight = computed(() => {
    const lines = this.part() ? 0 : Math.ceil((this.section()?.bars ?? 0) / BARS_IN_LINE);
    const caption = lines > 0 && this.captioned() ? CAPTION_HEIGHT : 0;
    return GAP + Math.max(LEAST_HEIGHT, lines * LINE_HEIGHT + LINES_MARGIN + caption);
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterRenderEffect(() => {
      if (this.audition.naming()) host.querySelector<HTMLElement>('.naming input')?.focus();
    });
    afterRenderEffect(() => {
      if (this.audition.finding()) host.querySelector<HTMLElement>('.find input')?.focus();
    });
    effect((end) => {
      const watching = this.list()?.renderedRangeStream.subscribe((range) => {
        this.range.set(range);
      });
      end(() => watching?.unsubscribe());
    });
    // The heard take is in sight, wherever in a long list it stands.
    afterRenderEffect(() => {
      const [sounding, takes, list] = [this.sounding(), this.takes(), this.list()];
      const at = takes.findIndex(({ id }) => id === sounding);
      const place = `${sounding} ${at}`;
      if (!list || this.range().end === 0 || place === this.inSight) return;
      this.inSight = place;
      if (at >= 0) bringIntoSight(list, at * this.rowHeight(), this.rowHeight());
    });
  }

  protected byId(_place: number, { id }: Take): TakeId {
    return id;
  }

  /** Said of the heard take only. */
  protected readonly facts = computed(() => {
    const [score, section] = [this.score(), this.section()];
    const take = this.ofLine().find(({ id }) => id === this.sounding());
    if (!score || !section || !take) return null;
    const ground = groundOf(score, section);
    if (take.of === 'part')
      return partFactsText(take, this.part()?.role ?? 'melody', this.chords(), ground, section.bars);
    const asking = take.origin.asking;
    return chordFactsText(
      take,
      asking?.harmonyBrief?.under ? partTake(this.ledger(), asking.beside[0] ?? null) : null,
      ground,
    );
  });

  /** Signs for what each note does, where they are asked for; only single lines have them. */
  protected readonly showRoles = computed(() => this.rolesShown() && isLine(this.part()?.role ?? 'drums'));
  protected readonly hasRoles = computed(() => isLine(this.part()?.role ?? 'drums'));
  protected readonly factsOpen = signal(false);
  protected readonly signs = (Object.keys(ROLE_SIGNS) as (keyof typeof ROLE_SIGNS)[]).map((role) => ({
    role,
    path: signPath(role),
  }));

  /** What a part plays can be a phrase elsewhere. */
  protected readonly canBePhrase = this.putting.canBePhrase;

  protected keepPhrase(): void {
    const name = this.putting.phraseName();
    if (this.putting.phrase(name)) this.notices.say(`Saved among your phrases as “${name}”.`);
  }

  /** Whether takes are looked for, or stand in another order than they came in. */
  protected readonly finding = computed(
    () =>
      this.audition.finding() ||
      this.view.everywhere() ||
      this.view.query() !== '' ||
      this.view.order() !== 'as drafted',
  );
  protected readonly orders = computed((): readonly Choice<TakeOrder>[] =>
    TAKE_ORDERS.map((value) => ({
      value,
      text: value === 'like one' ? (this.view.order() === value ? this.view.ordered() : 'like the heard one') : value,
    })),
  );

  /** Escape in the field of words puts all takes back. */
  protected leave(event: Event): void {
    if (!(event.target instanceof HTMLElement) || !event.target.closest('.find')) return;
    event.preventDefault();
    event.stopPropagation();
    this.all();
  }

  /** Lists all takes again, as they came. */
  protected all(): void {
    this.view.plain();
    this.audition.finding.set(false);
    this.list()?.elementRef.nativeElement.focus({ preventScroll: true });
  }

  protected readonly shares = SHARES;
  protected readonly blends = BLENDS.map((by) => ({ by, words: BLEND_WORDS[by] }));
  /** The take that the heard one can be blended with. */
  protected readonly partner = computed(() => {
    const partner = this.redrafting.partner();
    return partner === null ? null : this.view.nameOf(partner);
  });

  protected vary(share: number): void {
    this.redrafting.share.set(share);
    void this.redrafting.vary();
  }

  /** Named, or left as it was: the keys belong to the list again. */
  protected named(): void {
    this.audition.naming.set(false);
    this.list()?.elementRef.nativeElement.focus({ preventScroll: true });
  }

  /** Asked for by the menu only. */
  protected unheardCount(): number {
    const section = this.section();
    return section && !this.runs.busy() ? this.unheard.of(section.id, this.line()).length : 0;
  }

  protected clearUnheard(): void {
    const section = this.section();
    if (section) this.unheard.clear(section.id, this.line());
  }
}
