import { inject, Injectable } from '@angular/core';
import { soundingId, type Music } from '@fendro/core/song/resolve';
import type { Part, Section } from '@fendro/core/song/schema';
import { levelDecibels, together } from '@fendro/core/sounding/clashes';
import { sectionCourse, tempoOf } from '@fendro/core/sounding/course';
import { perform, type NoteEvent } from '@fendro/core/sounding/performance';
import type { Voice } from '@fendro/core/sounding/setup';
import { LoudnessClient } from '../work/loudness-client';

/** Measures how loud parts are by themselves in a section, each take on each instrument once. */
@Injectable({ providedIn: 'root' })
export class TakeLoudness {
  private readonly client = inject(LoudnessClient);
  /** In LUFS: as long as the page is there nothing is measured twice. */
  private readonly known = new Map<string, Promise<number | null>>();

  /**
   * How loud what a part sounds in a section is, with all that doubles it, at full level.
   *
   * @returns LUFS; null where it is silent or cannot be measured
   */
  async of(music: Music, section: Section, part: Part): Promise<number | null> {
    const take = soundingId(section, part.id, music.heard);
    if (take === null) return null;
    const course = sectionCourse(music.score, section);
    const { secondsAt } = tempoOf(course, music.score);
    const { setup, events } = perform({ music, course, only: (line) => line === part.id });
    const measured = await Promise.all(
      setup
        .filter(({ line }) => line === part.id)
        .map(async (voice) => {
          const own = events.filter((event) => event.kind === 'note').filter((event) => event.voice === voice.id);
          const loudness = await this.measured(take, voice, own, secondsAt);
          return loudness === null ? null : loudness + levelDecibels(voice.share);
        }),
    );
    const heard = measured.filter((loudness) => loudness !== null);
    return heard.length === 0 ? null : together(heard);
  }

  private measured(
    take: string,
    { instrument, octave, drums }: Voice,
    events: readonly NoteEvent[],
    secondsAt: (tick: number) => number,
  ): Promise<number | null> {
    const name = `${take} ${instrument.id} ${octave}`;
    const known = this.known.get(name);
    if (known) return known;
    const notes = events.map(({ at, end, pitch, velocity }) => ({
      start: Math.max(0, secondsAt(at)),
      end: secondsAt(end),
      pitch,
      velocity,
    }));
    const measured = this.client.measure(notes, instrument, drums);
    this.known.set(name, measured);
    return measured;
  }
}
