import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { Store } from '@ngrx/store';
import { deliverTake } from '@fendro/core/files/deliver';
import { partTake } from '@fendro/core/song/resolve';
import { type ChordSpan, type Note, type Take } from '@fendro/core/song/schema';
import { isDrumRole, isLine } from '@fendro/core/song/roles';
import { withEnding } from '@fendro/core/song/limits';
import { LONGEST_PHRASE_NAME, phraseFrom } from '@fendro/core/song/own-phrase';
import { groundOf, keyOf } from '@fendro/core/song/ground';
import { fittedNotes } from '@fendro/core/song/follow-chords';
import { noteRoles, type NoteRole } from '@fendro/core/study/note-roles';
import { RunsCommand } from '../commands/runs-command';
import { Notices } from '../store/notices';
import { Drafting } from '../desks/drafting';
import { AuditionDesk } from '../desks/audition-desk';
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
  selectTakes,
} from '../store/selectors';
import { newId } from '../store/ids';
import { Shelf } from '../store/shelf';
import { ChordSymbol } from '../ui/chord-symbol';
import { downloadAddress } from '../ui/download';
import { HeardList, HeardOption } from '../ui/heard-list';
import { NotePicture, shapeOf } from '../ui/note-picture';
import { ROLE_SIGNS, signPath } from '../ui/role-marks';
import { sayTake } from '../ui/spoken';
import { chordFactsText, partFactsText } from './take-facts';
import { sessionFeature } from '../store/session';

/** One and the same empty list, so that pictures without signs are not drawn again. */
const NO_ROLES: readonly NoteRole[] = [];

/** The takes of the line in focus, one below the other: up and down hear them, Enter chooses. */
@Component({
  selector: 'fd-take-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    HeardList,
    HeardOption,
    MatIconButton,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    NotePicture,
    ChordSymbol,
    RunsCommand,
    MatButton,
    MatIcon,
  ],
  templateUrl: './take-list.html',
  styleUrl: './take-list.scss',
})
export class TakeList {
  private readonly store = inject(Store);
  protected readonly audition = inject(AuditionDesk);
  private readonly drafting = inject(Drafting);
  private readonly shelf = inject(Shelf);
  private readonly notices = inject(Notices);
  private readonly rolesShown = this.store.selectSignal(sessionFeature.selectRolesShown);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly ledger = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly section = this.store.selectSignal(selectSection);
  protected readonly part = this.store.selectSignal(selectPart);
  protected readonly sounding = this.audition.sounding;
  protected readonly chords = this.store.selectSignal(selectChords);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly all = this.store.selectSignal(selectLineTakes);

  protected readonly bar = this.store.selectSignal(selectBar);
  protected readonly shape = computed(() => {
    const part = this.part();
    return part ? shapeOf(part.colour, isDrumRole(part.role)) : 'bar';
  });
  protected readonly takes = computed(() => {
    const music = this.music();
    if (!music) return [];
    const { score } = music;
    const shown = this.audition.shown();
    const section = this.section();
    const key = keyOf(section ? groundOf(score, section) : score.ground);
    const drums = isDrumRole(this.part()?.role ?? 'melody');
    const { metre } = section ? groundOf(score, section) : score.ground;
    const roles = (notes: readonly Note[]): readonly NoteRole[] =>
      this.showRoles() ? noteRoles(notes, this.chords(), metre) : NO_ROLES;
    return shown.map((take, index) => {
      const verdict = this.audition.verdictOf(take.id);
      const notes = take.of === 'part' && section ? fittedNotes(music, section, take) : [];
      return {
        take,
        verdict,
        place: index + 1,
        notes,
        roles: roles(notes),
        state: take.id === this.sounding() ? (take.id === this.audition.chosen() ? 'chosen' : 'heard') : '',
        said:
          sayTake(take, index + 1, shown.length, verdict, key, drums) +
          (take.id === this.audition.chosen() ? ', chosen' : ''),
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
  protected readonly showRoles = computed(() => this.rolesShown() && isLine(this.part()?.role ?? 'drums'));
  protected readonly hasRoles = computed(() => isLine(this.part()?.role ?? 'drums'));
  protected readonly factsOpen = signal(false);
  protected readonly signs = (Object.keys(ROLE_SIGNS) as (keyof typeof ROLE_SIGNS)[]).map((role) => ({
    role,
    path: signPath(role),
  }));

  /** A progression in rows of four bars. */
  protected rowsOf(chords: readonly ChordSpan[]): ChordSpan[][] {
    const rows: ChordSpan[][] = [];
    for (const span of chords) (rows[Math.floor(span.start / (4 * this.bar()))] ??= []).push(span);
    return rows.filter((row) => row.length > 0);
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
}
