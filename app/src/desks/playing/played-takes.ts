import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { chordsPlayed, withChordsHeard, writtenRound, type Round } from '@fendro/core/live/rounds';
import { passNotes } from '@fendro/core/patterns/pass';
import { settled, type Room } from '@fendro/core/shaping/room';
import { barOf, groundOf } from '@fendro/core/song/ground';
import { LIMITS } from '@fendro/core/song/limits';
import {
  chordsIn,
  harmonyTake,
  partTake,
  sectionOf,
  sectionTicks,
  soundingId,
  type Music,
} from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import { HARMONY, type Part, type Section, type Take } from '@fendro/core/song/schema';
import { chosenId } from '@fendro/core/song/section';
import { behindLike, chordsTake, playedTake, withNoteIds } from '@fendro/core/song/take';
import { swung } from '@fendro/core/sounding/groove';
import type { Ticks } from '@fendro/core/theory/units';
import { newId } from '../../store/ids';
import { selectMusic, selectPass } from '../../store/selectors';
import { TakeActions } from '../../store/song.actions';
import { HarmonyDesk } from '../harmony-desk';
import { RecordingSettings } from './record-settings';

/** Ticks of a section that are played anew; null where all of it is. */
export type Stretch = { readonly from: Ticks; readonly to: Ticks } | null;

/** Makes takes of rounds that were played by hand. */
@Injectable({ providedIn: 'root' })
export class PlayedTakes {
  private readonly store = inject(Store);
  private readonly harmony = inject(HarmonyDesk);
  private readonly settings = inject(RecordingSettings);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly pass = this.store.selectSignal(selectPass);

  /**
   * What a round became of a part: its notes in place of what was there, or over it.
   *
   * @param over  whether what was there goes on sounding
   * @returns null where nothing was played there
   */
  ofPart(round: Round, part: Part, stretch: Stretch, over: boolean): Take | null {
    const [music, section] = this.placeOf(round);
    if (!music || !section) return null;
    const ground = groundOf(music.score, section);
    const length = sectionTicks(music.score, section);
    const { from, to } = stretch ?? { from: 0, to: length };
    const writing = { ...this.settings.now(), sounds: (at: Ticks): Ticks => swung(at, ground.swing, ground.metre) };
    const room: Room = { from, to, low: 0, high: 127 };
    const written = writtenRound(round.notes, writing, room).map(({ id: _id, ...note }) => note);
    if (written.length === 0) return null;
    const before = partTake(music.takes, soundingId(section, part.id, music.heard));
    const there = before ? passNotes(music, section, before, this.pass()) : [];
    const kept = over ? there : there.filter(({ start }) => start < from || start >= to);
    const all = withNoteIds([...kept, ...written]).slice(0, LIMITS.notes);
    const touched = new Set(all.slice(kept.length).map(({ id }) => id));
    const notes = settled(all, touched, { ...room, from: -barOf(music.score, section), to: length });
    const follows = this.settings.now().notes === 'follow the chords' && !isDrumRole(part.role);
    const take = playedTake({ id: newId('take'), section: section.id, length }, part, notes, {
      from: sayRound(round),
      harmony: follows ? this.harmonyOf(music, section) : null,
      ground,
      parents: before && kept.length > 0 ? [before.id] : [],
    });
    return before && kept.length > 0 ? behindLike(take, [before]) : take;
  }

  /** The chords of a round. @returns null where none was played */
  ofChords(round: Round, stretch: Stretch): Take | null {
    const [music, section] = this.placeOf(round);
    if (!music || !section) return null;
    const length = sectionTicks(music.score, section);
    const before = chordsIn(section, music.takes, music.heard);
    const ground = groundOf(music.score, section);
    const notes = withChordsHeard(round.notes, ground, ground.metre, length);
    const chords = chordsPlayed(notes, before, stretch ?? { from: 0, to: length }, length);
    if (chords === before) return null;
    const parent = this.harmonyOf(music, section);
    return chordsTake({ id: newId('take'), section: section.id, length }, chords.slice(0, LIMITS.chords), {
      how: 'played',
      from: sayRound(round),
      parents: parent === null ? [] : [parent],
    });
  }

  /**
   * Lets the last of some takes of one section be heard; the first that a line ever has becomes the song's.
   *
   * @param takes  at least one, all of one line
   */
  hear(takes: readonly Take[]): void {
    const music = this.music();
    const last = takes.at(-1);
    const section = music && last && sectionOf(music.score, last.section);
    if (!last || !section) return;
    const line = last.of === 'harmony' ? HARMONY : last.part;
    const place = { section: section.id, line };
    if (takes.length === 1 && chosenId(section, line) === null && soundingId(section, line, music.heard) === null)
      this.harmony.adopt(last, newId('gesture'));
    else this.store.dispatch(TakeActions.madeAndHeard({ takes, take: last.id, ...place }));
  }

  private placeOf({ section }: Round): readonly [Music | null, Section | undefined] {
    const music = this.music();
    return [music, music ? sectionOf(music.score, section) : undefined];
  }

  private harmonyOf(music: Music, section: Section): Take['id'] | null {
    return harmonyTake(music.takes, soundingId(section, HARMONY, music.heard))?.id ?? null;
  }
}

const sayRound = ({ round }: Round): string => (round === 0 ? 'played by hand' : `played by hand, round ${round + 1}`);
