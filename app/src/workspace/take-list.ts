import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { deliverTake } from '@fendro/core/files/deliver';
import { verdictOf } from '@fendro/core/song/edit';
import { partTake } from '@fendro/core/song/resolve';
import { chosenId } from '@fendro/core/song/section';
import {
  HARMONY,
  type ChordSpan,
  type LineId,
  type Note,
  type Take,
  type Verdict,
  type TakeId,
} from '@fendro/core/song/schema';
import { isDrumRole, isLine } from '@fendro/core/song/roles';
import { withEnding } from '@fendro/core/song/limits';
import { LONGEST_PHRASE_NAME, phraseFrom } from '@fendro/core/song/own-phrase';
import { groundOf, keyOf } from '@fendro/core/song/ground';
import { fittedNotes } from '@fendro/core/song/follow-chords';
import { noteRoles, type NoteRole } from '@fendro/core/study/note-roles';
import { Notices } from '../store/notices';
import { Playback } from '../sound/playback';
import { Drafting } from '../desks/drafting';
import { HarmonyDesk } from '../desks/harmony-desk';
import {
  selectBar,
  selectChords,
  selectHeard,
  selectLine,
  selectLineTakes,
  selectMusic,
  selectPart,
  selectScore,
  selectSection,
  selectSession,
  selectSounding,
  selectTakes,
} from '../store/selectors';
import { newId } from '../store/ids';
import { SessionActions } from '../store/session';
import { Shelf } from '../store/shelf';
import { TakeActions } from '../store/song.actions';
import { ChordSymbol } from '../ui/chord-symbol';
import { downloadAddress } from '../ui/download';
import { Icon } from '../ui/icon';
import { NotePicture, shapeOf } from '../ui/note-picture';
import { ROLE_SIGNS, signPath } from '../ui/role-marks';
import { sayTake } from '../ui/spoken';
import { chordFactsText, partFactsText } from './take-facts';

/** One and the same empty list, so that pictures without signs are not drawn again. */
const NO_ROLES: readonly NoteRole[] = [];

/** The takes of the line in focus, one below the other: up and down hear them, Enter chooses. */
@Component({
  selector: 'fd-take-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatTooltip, Icon, NotePicture, ChordSymbol],
  templateUrl: './take-list.html',
  styleUrl: './take-list.scss',
  host: { '(document:keydown)': 'key($event)', '(document:keyup)': 'keyUp($event)' },
})
export class TakeList {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly drafting = inject(Drafting);
  private readonly desk = inject(HarmonyDesk);
  private readonly shelf = inject(Shelf);
  private readonly notices = inject(Notices);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly ledger = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly section = this.store.selectSignal(selectSection);
  protected readonly part = this.store.selectSignal(selectPart);
  protected readonly sounding = this.store.selectSignal(selectSounding);
  protected readonly chords = this.store.selectSignal(selectChords);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly all = this.store.selectSignal(selectLineTakes);
  protected readonly showDiscarded = signal(false);
  private readonly list = viewChild<ElementRef<HTMLElement>>('list');
  /** The rival that C, held, puts aside for the chosen take. */
  private rival: string | null = null;

  protected readonly bar = this.store.selectSignal(selectBar);
  protected readonly shape = computed(() => {
    const part = this.part();
    return part ? shapeOf(part.colour, isDrumRole(part.role)) : 'bar';
  });
  protected readonly chosen = computed(() => {
    const section = this.section();
    return section ? chosenId(section, this.line()) : null;
  });
  protected readonly discardedCount = computed(
    () => this.all().filter(({ id }) => this.verdict(id) === 'discarded').length,
  );

  protected readonly takes = computed(() => {
    const music = this.music();
    if (!music) return [];
    const { score } = music;
    const shown = this.all().filter(
      ({ id }) => this.showDiscarded() || this.verdict(id) !== 'discarded' || id === this.sounding(),
    );
    const section = this.section();
    const key = keyOf(section ? groundOf(score, section) : score.ground);
    const drums = isDrumRole(this.part()?.role ?? 'melody');
    const { metre } = section ? groundOf(score, section) : score.ground;
    const roles = (notes: readonly Note[]): readonly NoteRole[] =>
      this.showRoles() ? noteRoles(notes, this.chords(), metre) : NO_ROLES;
    return shown.map((take, index) => {
      const verdict = this.verdict(take.id);
      const notes = take.of === 'part' && section ? fittedNotes(music, section, take) : [];
      return {
        take,
        verdict,
        place: index + 1,
        notes,
        roles: roles(notes),
        state: take.id === this.sounding() ? (take.id === this.chosen() ? 'chosen' : 'heard') : '',
        said:
          sayTake(take, index + 1, shown.length, verdict, key, drums) + (take.id === this.chosen() ? ', chosen' : ''),
      };
    });
  });

  /** Said of the heard take only. */
  protected readonly facts = computed(() => {
    const [score, section] = [this.score(), this.section()];
    const take = this.all().find(({ id }) => id === this.sounding());
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
  protected readonly showRoles = computed(() => this.session().rolesShown && isLine(this.part()?.role ?? 'drums'));
  protected readonly hasRoles = computed(() => isLine(this.part()?.role ?? 'drums'));
  protected readonly signs = (Object.keys(ROLE_SIGNS) as (keyof typeof ROLE_SIGNS)[]).map((role) => ({
    role,
    path: signPath(role),
  }));

  protected toggleRoles(): void {
    this.store.dispatch(SessionActions.rolesToggled());
  }

  constructor() {
    // Keeps the heard take in sight while the hand stays on the keys.
    effect(() => {
      const id = this.sounding();
      this.takes();
      untracked(() => {
        setTimeout(() => {
          if (id) this.host.nativeElement.querySelector(`[id="${id}"]`)?.scrollIntoView({ block: 'nearest' });
        });
      });
    });
  }

  /** A progression in rows of four bars. */
  protected rowsOf(chords: readonly ChordSpan[]): ChordSpan[][] {
    const rows: ChordSpan[][] = [];
    for (const span of chords) (rows[Math.floor(span.start / (4 * this.bar()))] ??= []).push(span);
    return rows.filter((row) => row.length > 0);
  }

  protected verdict(id: string): Verdict | null {
    const score = this.score();
    return score ? verdictOf(score, id) : null;
  }

  protected hear(take: TakeId): void {
    const section = this.section();
    if (!section) return;
    if (take === this.chosen()) this.store.dispatch(TakeActions.released({ section: section.id, line: this.line() }));
    else this.store.dispatch(TakeActions.heard({ take, section: section.id, line: this.line(), at: Date.now() }));
    if (!this.playback.playing() && !this.playback.waiting()) void this.playback.play();
  }

  protected choose(): void {
    const section = this.section();
    const take = this.sounding();
    if (section && take && take !== this.chosen()) this.desk.choose(section.id, this.line(), take);
  }

  /** Gives the verdict and moves on; the same verdict again takes it back. */
  protected judge(verdict: Verdict): void {
    const take = this.sounding();
    if (!take) return;
    const takes = this.takes();
    const at = takes.findIndex((entry) => entry.take.id === take);
    const next = takes[at + 1] ?? takes[at - 1];
    const same = this.verdict(take) === verdict;
    this.store.dispatch(TakeActions.judged({ take, verdict: same ? null : verdict }));
    if (!same && next && next.take.id !== take) this.hear(next.take.id);
  }

  /** The sounding take of a pitched part can be a phrase elsewhere. */
  protected readonly canBePhrase = computed(() => {
    const part = this.part();
    return part !== null && !isDrumRole(part.role) && this.soundingTake() !== null;
  });
  private readonly soundingTake = computed(() => partTake(this.ledger(), this.sounding()));

  protected keepPhrase(): void {
    const [music, section, part, take] = [this.music(), this.section(), this.part(), this.soundingTake()];
    if (!music || !section || !part || !take) return;
    const place = this.takes().findIndex((entry) => entry.take.id === take.id) + 1;
    const fitted = { ...take, notes: fittedNotes(music, section, take) };
    const phrase = phraseFrom(fitted, part.role, this.chords(), groundOf(music.score, section), {
      id: newId('phrase'),
      name: withEnding(`${part.name} of ${section.name}`, `, take ${place}`, LONGEST_PHRASE_NAME),
    });
    if (phrase && !this.shelf.savePhrase(phrase)) return;
    this.notices.say(
      phrase ? `Saved among your phrases as “${phrase.name}”.` : 'This take is silent: there is no phrase in it.',
    );
  }

  protected readonly unheardCount = computed(() => {
    const section = this.section();
    this.ledger();
    return section && !this.drafting.busy() ? this.drafting.unheard(section.id, this.line()).length : 0;
  });

  protected clearUnheard(): void {
    const section = this.section();
    if (section) this.drafting.clearUnheard(section.id, this.line());
  }

  protected draftMore(): void {
    const section = this.section();
    if (section) void this.drafting.draft(section.id, this.line());
  }

  private isOurs(target: EventTarget | null): boolean {
    return (
      target === document.body ||
      (target instanceof HTMLElement && (target.id === 'main' || this.host.nativeElement.contains(target)))
    );
  }

  protected key(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || !this.isOurs(event.target)) return;
    if (event.target instanceof HTMLButtonElement && event.key === 'Enter') return;
    const handled = this.act(event);
    if (handled) event.preventDefault();
  }

  private act(event: KeyboardEvent): boolean {
    switch (event.key) {
      case 'ArrowUp':
        return this.step(-1);
      case 'ArrowDown':
        return this.step(1);
      case 'ArrowLeft':
        return this.changeLine(-1);
      case 'ArrowRight':
        return this.changeLine(1);
      case 'Enter':
        if (event.shiftKey) return false;
        this.choose();
        return true;
      case 'y':
        this.judge('kept');
        return true;
      case 'n':
        this.judge('discarded');
        return true;
      case 'd':
        this.draftMore();
        return true;
      case 'c':
        if (!event.repeat) this.compare();
        return true;
      default:
        return false;
    }
  }

  private step(by: 1 | -1): boolean {
    const takes = this.takes();
    const at = takes.findIndex(({ take }) => take.id === this.sounding());
    const next = takes[at < 0 ? 0 : Math.max(0, Math.min(takes.length - 1, at + by))];
    if (next && next.take.id !== this.sounding()) this.hear(next.take.id);
    return takes.length > 0;
  }

  private changeLine(by: 1 | -1): boolean {
    const lines: LineId[] = [HARMONY, ...(this.score()?.parts.map(({ id }) => id) ?? [])];
    const line = lines[Math.max(0, Math.min(lines.length - 1, lines.indexOf(this.line()) + by))];
    if (line) this.store.dispatch(SessionActions.lineFocused({ line }));
    return true;
  }

  /** While C is held the chosen take sounds; letting go brings the rival back. */
  private compare(): void {
    const section = this.section();
    const now = this.sounding();
    if (!section || !now || now === this.chosen()) return;
    if (this.desk.backToChosen(section.id, this.line())) this.rival = now;
  }

  protected keyUp(event: KeyboardEvent): void {
    if (event.key !== 'c' || this.rival === null) return;
    this.hear(this.rival);
    this.rival = null;
  }

  /** A take picture dragged out of the window arrives elsewhere as a MIDI file. */
  protected dragOut(event: DragEvent, take: Take): void {
    const music = this.music();
    const file = music && take.of === 'part' ? deliverTake(music, take) : null;
    if (!file || !event.dataTransfer) {
      event.preventDefault();
      return;
    }
    event.dataTransfer.effectAllowed = 'copy';
    event.dataTransfer.setData('DownloadURL', `audio/midi:${file.name}:${downloadAddress(file.bytes, 'audio/midi')}`);
    event.dataTransfer.setData('text/plain', file.name);
  }

  protected focusList(): void {
    this.list()?.nativeElement.focus({ preventScroll: true });
  }
}
