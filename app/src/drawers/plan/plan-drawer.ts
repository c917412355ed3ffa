import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { ENDING_NAMES } from '@fendro/core/compose/ending-names';
import { USE_WORDS } from '@fendro/core/song/plan';
import { tellProfile } from '@fendro/core/song/profile';
import { MOTIF_USES, type MotifId, type Note, type Section, type SongMotif } from '@fendro/core/song/schema';
import { nameApart } from '@fendro/core/song/version-words';
import { DraftRuns } from '../../desks/draft-runs';
import { Drafting } from '../../desks/drafting';
import { PlanDesk } from '../../desks/plan-desk';
import { selectMusic } from '../../store/selectors';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { TextField } from '../../ui/fields/text-field';
import { NotePicture } from '../../ui/note-picture';

/** Pitch of a motif's first note in its picture; only its shape is meant. */
const MIDDLE = 66;
const STEP = 1.7;

/** Which section states, quotes, answers or avoids what the song remembers; and the whole song drafted by it. */
@Component({
  selector: 'fd-plan-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    MatButton,
    MatIconButton,
    MatCheckbox,
    MatIcon,
    MatProgressBar,
    MatTooltip,
    NotePicture,
    TextField,
  ],
  templateUrl: './plan-drawer.html',
  styleUrls: ['../drawer.scss', './plan-drawer.scss'],
})
export class PlanDrawer {
  protected readonly desk = inject(PlanDesk);
  private readonly music = inject(Store).selectSignal(selectMusic);
  protected readonly drafting = inject(Drafting);
  protected readonly runs = inject(DraftRuns);
  protected readonly uses = MOTIF_USES.map((value): Choice<(typeof MOTIF_USES)[number]> => ({
    value,
    text: USE_WORDS[value],
  }));
  protected readonly motifs = computed((): readonly Choice<MotifId | null>[] => [
    { value: null, text: 'no motif' },
    ...this.desk.motifs().map(({ id, name }) => ({ value: id, text: name })),
  ]);
  protected nameOf(section: Section): string {
    const music = this.music();
    return music ? nameApart(music, section) : section.name;
  }
  /** Sections that are left out when the song is drafted. */
  private readonly leftOut = signal<ReadonlySet<string>>(new Set());
  protected readonly chosen = computed(() => this.desk.sections().filter(({ id }) => !this.leftOut().has(id)));

  /** Whether the song gets an ending as well. */
  protected readonly ends = signal(true);
  protected readonly ending = computed(() => {
    const ending = this.desk.ending();
    return ending && ENDING_NAMES[ending].name;
  });

  protected readonly isChosen = ({ id }: Section): boolean => !this.leftOut().has(id);

  protected include(section: Section, included: boolean): void {
    const out = new Set(this.leftOut());
    if (included) out.delete(section.id);
    else out.add(section.id);
    this.leftOut.set(out);
  }

  protected readonly leaning = ({ kind, plan }: Section): string =>
    plan.bound ? tellProfile(kind, 'melody') || 'as it is asked for' : 'free';

  protected draft(): void {
    void this.desk.draft(this.chosen(), this.ends());
  }

  /** A motif as notes, for its picture. */
  protected readonly pictured = ({ notes }: SongMotif): readonly Note[] =>
    notes.map(({ start, duration, step }) => ({
      start,
      duration,
      pitch: Math.round(MIDDLE + STEP * step),
      velocity: 90,
    }));
}
