import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { motifFrom } from '@fendro/core/compose/motif';
import { passNotes } from '@fendro/core/patterns/pass';
import { barOf, groundOf, keyOf } from '@fendro/core/song/ground';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { addMotif } from '@fendro/core/song/plan';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import type { MotifId, MotifUse, SongMotif, TakeNote } from '@fendro/core/song/schema';
import type { Ticks } from '@fendro/core/theory/units';
import { newId } from '../store/ids';
import { Notices } from '../store/notices';
import { selectLine, selectMusic, selectOwnScore, selectPart, selectPass, selectSection } from '../store/selectors';
import type { BarSpan } from '../store/session';
import { ScoreActions } from '../store/song.actions';
import { sayBars } from '../ui/say-bars';
import { NotesDesk } from './notes-desk';
import { Redrafting } from './redrafting';
import { SheetDesk } from './sheet-desk';

/** What can be done with a motif by hand; to avoid one is a matter of the plan. */
export const SAYINGS = ['quotes', 'answers', 'sequences', 'stretches', 'inverts', 'states'] as const;
export type SayingUse = Extract<MotifUse, (typeof SAYINGS)[number]>;

/** The longest motif, in bars. */
const LONGEST = 4;

/** The bars that some notes lie in. */
const spanOf = (notes: readonly TakeNote[], bar: Ticks): BarSpan => ({
  from: Math.floor(Math.min(...notes.map(({ start }) => start)) / bar),
  to: Math.floor(Math.max(...notes.map(({ start }) => start)) / bar) + 1,
});

/** Motifs by hand: taken from selected bars or picked notes, and said in others, by whichever part. */
@Injectable({ providedIn: 'root' })
export class MotifDesk {
  private readonly store = inject(Store);
  private readonly sheet = inject(SheetDesk);
  private readonly notes = inject(NotesDesk);
  private readonly redrafting = inject(Redrafting);
  private readonly notices = inject(Notices);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly pass = this.store.selectSignal(selectPass);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly picked = signal<MotifId | null>(null);
  readonly motifs = computed((): readonly SongMotif[] => this.score()?.motifs ?? []);
  /** The motif that keys say: the one picked last, else the section's own, else the newest. */
  readonly inHand = computed((): SongMotif | null => {
    const [motifs, planned] = [this.motifs(), this.section()?.plan.motif];
    const by = (id: MotifId | null | undefined): SongMotif | undefined => motifs.find((motif) => motif.id === id);
    return by(this.picked()) ?? by(planned) ?? motifs.at(-1) ?? null;
  });
  readonly canSay = computed(() => this.part() !== null && this.inHand() !== null);

  /** What the selected bars, or the picked notes, of the part in focus say; null where they say nothing, or too much for a motif. */
  readonly found = computed((): Omit<SongMotif, 'id'> | null => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    const take = music && section && part ? partTake(music.takes, soundingId(section, part.id, music.heard)) : null;
    if (!music || !section || !part || !take) return null;
    const [key, bar] = [keyOf(groundOf(music.score, section)), barOf(music.score, section)];
    const all = passNotes(music, section, take, this.pass());
    const picked = all.filter(({ id, start }) => start >= 0 && this.notes.ids().includes(id));
    const bars = picked.length > 1 ? spanOf(picked, bar) : this.sheet.selected();
    if (!bars || bars.to - bars.from > LONGEST) return null;
    const motif = motifFrom(picked.length > 1 ? picked : all, key, bar, bars.from, bars.to - bars.from);
    if (!motif) return null;
    // Drums have a rhythm and no steps.
    const steps = isDrumRole(part.role) ? motif.notes.map((note) => ({ ...note, step: 0 })) : motif.notes;
    return { ...motif, notes: steps, name: shortened(`${part.name}, ${section.name}, ${sayBars(bars)}`, LIMITS.name) };
  });

  /** Remembers what the selected bars say as a motif of the song, and takes it in hand. */
  remember(): void {
    const [score, found] = [this.score(), this.found()];
    if (!score || !found) return;
    const motif = { ...found, id: newId('motif') };
    this.store.dispatch(
      ScoreActions.revised({ name: 'remember a motif', score: addMotif(score, motif), takes: [], released: [] }),
    );
    if (!this.motifs().some(({ id }) => id === motif.id)) return;
    this.picked.set(motif.id);
    this.notices.say(`Remembered as a motif: ${found.name}. Any part can say it, and sections by the plan.`);
  }

  /** Has the part in focus say a motif in the selected bars, or over the whole section; the first take is heard. */
  async say(use: SayingUse, motif = this.inHand()): Promise<void> {
    if (!motif || !this.part()) return;
    this.picked.set(motif.id);
    await this.redrafting.say(this.line(), { motif, use, bars: this.sheet.selected() });
  }
}
