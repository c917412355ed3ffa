import { audible, courseOf, endOf, leadOf, type Stretch } from '@fendro/core/files/outgoing/deliver';
import type { Music } from '@fendro/core/song/resolve';
import { HARMONY, type LineId, type PartId } from '@fendro/core/song/schema';
import { groundAt, tempoOf, type Course } from '@fendro/core/sounding/course';
import { perform, pickUpOf } from '@fendro/core/sounding/performance';
import { voicesOf, type Voice } from '@fendro/core/sounding/setup';
import { barTicks } from '@fendro/core/theory/metre';
import { EVENT, QUANTUM } from '../../../worklets/protocol';
import type { SongSynth } from '../../../synth/song-synth';
import { applyMix, type MixDesk } from '../mix';
import { anew, endFrame, LEAD_SECONDS, LONGEST_PASS_BARS, performedEvents, type Pass, type Queued } from '../schedule';
import { stripsFor, stripsOf, type Strips } from '../strips';

/** A song that is about to be rendered: what is queued for it where it is played from its beginning, and for whom. */
export interface SongSound {
  /** Frames a second. */
  readonly rate: number;
  readonly voices: readonly Voice[];
  readonly strips: Strips;
  /** The level of the whole, as a factor. */
  readonly master: number;
  readonly events: readonly Queued[];
  /** The frame at which the file begins, and the one at which the song's last bar is over. */
  readonly begin: number;
  readonly end: number;
}

/** All that sounds in a song's files: its parts, but for those that are muted. */
export const soundingVoices = ({ score }: Pick<Music, 'score'>): Voice[] =>
  voicesOf(score).filter(({ line, muted }) => line !== HARMONY && !muted);

/** Everything is queued in passes as it is where the song is heard, so that no rounding differs. */
function queuedPasses(
  music: Music,
  course: Course,
  rate: number,
  opening: Pick<Pass, 'frame' | 'from'>,
): [Queued[], number] {
  const { score } = music;
  const tempo = tempoOf(course, score);
  const strips = stripsOf(score);
  const lines = new Set<LineId>(score.parts.filter(audible).map(({ id }) => id));
  const over = endOf(course);
  const events: Queued[] = [anew(opening.frame)];
  let { frame, from } = opening;
  while (from < over) {
    const to = Math.min(over, from + LONGEST_PASS_BARS * barTicks(groundAt(course, from, score).metre));
    const pass: Pass = { frame, from, to, tempo, rate, round: 0 };
    const performed = perform({ music, course, span: pass, only: (line) => lines.has(line) });
    events.push(...performedEvents(performed, pass, strips, from === opening.from));
    [frame, from] = [endFrame(pass), to];
  }
  return [events, frame];
}

/**
 * A song as it is to be rendered. Its files begin where its MIDI files begin, so that both lie on each other: with the
 * first bar, or a bar before where the music begins with a pick-up.
 *
 * @param rate  frames a second
 * @param stretch  in place of the whole song
 */
export function songSound(music: Music, rate: number, stretch?: Stretch): SongSound {
  const { score } = music;
  const course = courseOf(score, stretch);
  const lead = leadOf(music, course);
  const from = lead > 0 ? -pickUpOf(music, course, audible) : 0;
  const tempo = tempoOf(course, score);
  const silence = Math.round((tempo.secondsAt(from) - tempo.secondsAt(-lead)) * rate);
  // Where the synthesizer's quanta lie decides how it sounds in the last digits: they lie as they do where it is heard.
  const frame = Math.round(LEAD_SECONDS * rate) + QUANTUM * Math.ceil(silence / QUANTUM);
  const [events, end] = queuedPasses(music, course, rate, { frame, from });
  return {
    rate,
    voices: soundingVoices(music),
    strips: stripsOf(score),
    master: ((score.master ?? 100) / 100) ** 2,
    events,
    begin: frame - silence,
    end,
  };
}

/** Of the strips of a part, those events that are its own; the others go on to part the quanta where they lie. */
export function partSound(sound: SongSound, part: PartId): SongSound {
  const own = new Set(stripsFor(sound.strips, part));
  return {
    ...sound,
    events: sound.events.map((event) =>
      own.has(event.channel) || event.kind === EVENT.anew ? event : { ...event, kind: EVENT.spent },
    ),
  };
}

/** What a synthesizer has to be able to do for a song to be rendered. */
export type Renderer = Pick<
  SongSynth,
  'grow' | 'applyNow' | 'setDrums' | 'setGain' | 'setMaster' | 'queue' | 'renderOpen'
>;

/** Sets a synthesizer up as it is where the song is heard. */
export function setUp(synth: Renderer, { strips, voices, master }: SongSound): void {
  const now = (kind: number, channel: number, a: number, b: number): void => {
    synth.applyNow(Float64Array.of(0, kind, channel, a, b));
  };
  const desk: MixDesk = {
    strips: (count) => {
      synth.grow(count);
    },
    drums: (channel, on) => {
      synth.setDrums(channel, on);
    },
    program: (channel, program) => {
      now(EVENT.program, channel, program, 0);
    },
    controller: (channel, controller, value) => {
      now(EVENT.controller, channel, controller, value);
    },
    gain: (channel, gain) => {
      synth.setGain(channel, gain);
    },
  };
  applyMix(desk, strips, voices, []);
  synth.setMaster(master, true);
}
