import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { loudnessMoved, octavesMoved, rested, type Stretch } from '@fendro/core/song/bar-edit';
import { chooseMadeOf } from '@fendro/core/song/edit';
import { fittedNotes } from '@fendro/core/song/follow-chords';
import { groundOf } from '@fendro/core/song/ground';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import { HARMONY, type PartTake } from '@fendro/core/song/schema';
import { editedTake, fittedTake } from '@fendro/core/song/take';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { newId } from '../store/ids';
import { Notices } from '../store/notices';
import { selectBar, selectMusic, selectOwnScore, selectPart, selectSection } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { sessionFeature } from '../store/session';

type Notes = PartTake['notes'];

/** By how much velocity selected bars get louder or softer at a time. */
const LOUDER_BY = 6;

/** What is done to the selected bars of the part in focus: each edit is a take, whose parent is named. */
@Injectable({ providedIn: 'root' })
export class BarsDesk {
  private readonly store = inject(Store);
  private readonly notices = inject(Notices);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly bar = this.store.selectSignal(selectBar);

  /** The take that sounds, as the song's chords and key make it. */
  private readonly take = computed((): PartTake | null => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    return music && section && part ? partTake(music.takes, soundingId(section, part.id, music.heard)) : null;
  });
  private readonly stretch = computed((): Stretch | null => {
    const bars = this.bars();
    return bars && { from: bars.from * this.bar(), to: bars.to * this.bar() };
  });
  /** True where the part in focus plays in the selected bars. */
  readonly canEdit = computed(() => {
    const [take, stretch] = [this.take(), this.stretch()];
    return (
      take !== null && stretch !== null && take.notes.some(({ start }) => start >= stretch.from && start < stretch.to)
    );
  });
  /** Drums have no octaves. */
  readonly hasOctaves = computed(() => this.canEdit() && !isDrumRole(this.part()?.role ?? 'drums'));

  rest(): void {
    this.edit('let bars rest', rested);
  }

  octave(by: 1 | -1): void {
    const part = this.part();
    if (!part || !this.hasOctaves()) return;
    const reach = instrumentOf(part.instrument);
    this.edit(by > 0 ? 'move bars an octave up' : 'move bars an octave down', (notes, stretch) => {
      const moved = octavesMoved(notes, stretch, by, reach);
      if (!moved)
        this.notices.say(
          `${reach.name} does not reach an octave ${by > 0 ? 'higher' : 'lower'} than these bars; nothing was changed.`,
        );
      return moved ?? notes;
    });
  }

  louder(by: 1 | -1): void {
    this.edit(by > 0 ? 'make bars louder' : 'make bars softer', (notes, stretch) =>
      loudnessMoved(notes, stretch, by * LOUDER_BY),
    );
  }

  private edit(name: string, change: (notes: Notes, stretch: Stretch) => Notes): void {
    const [score, music, section, part] = [this.ownScore(), this.music(), this.section(), this.part()];
    const [take, stretch] = [this.take(), this.stretch()];
    if (!score || !music || !section || !part || !take || !stretch) return;
    const sounding = fittedNotes(music, section, take);
    const notes = change(sounding, stretch);
    if (notes === sounding) return;
    // What follows the chords is edited as it sounds over them now.
    const harmony = soundingId(section, HARMONY, music.heard);
    const { tonic, scale } = groundOf(music.score, section);
    const base =
      sounding === take.notes || !take.over || harmony === null
        ? take
        : fittedTake(newId('take'), take, sounding, { ...take.over, harmony, tonic, scale });
    const edited = editedTake(newId('take'), base, notes);
    this.store.dispatch(
      ScoreActions.revised({
        name,
        score: chooseMadeOf(score, section.id, part.id, take.id, edited.id),
        takes: base === take ? [edited] : [base, edited],
        released: [{ section: section.id, line: part.id }],
        gesture: `${name} ${section.id} ${part.id} ${stretch.from} ${stretch.to}`,
      }),
    );
  }
}
