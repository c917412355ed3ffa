import { layOut, type Music } from '../../song/resolve';
import { HARMONY, type LineId, type Part, type Score } from '../../song/schema';
import { begunAt, loopCourse, songCourse, type Course, type Span } from '../../sounding/course';
import { perform, pickUpOf, type ChordLine, type Performance } from '../../sounding/performance';
import type { Voice, VoiceId } from '../../sounding/setup';
import { drumsApart, voicesApart } from '../../sounding/voices-apart';
import { barTicks } from '../../theory/metre';
import type { Ticks } from '../../theory/units';
import { fileNameOf } from './file-names';
import { addressesInOneTrack, addressesOf, FIRST_ADDRESS, PITCHED_CHANNELS, type Address } from '../midi/midi-channels';
import { laidOut, type DrumKeys } from '../midi/drum-layout';
import { atResolution, OWN_RESOLUTION, type Resolution } from '../midi/at-resolution';
import { writeMidi, type MidiTrack } from '../midi/midi-write';
import { conductor, oneTrack, voiceTrack, type Addressed } from '../midi/tracks';

/** A file ready to be handed over. */
export interface Delivery {
  readonly name: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly notes: number;
  /** What its reader would not expect, in whole sentences. */
  readonly remarks: readonly string[];
}

/** What starts earlier than this before the bar line is a pick-up and no early hand, in ticks. */
const HANDS: Ticks = 60;

/** Muted parts are left out of the song's file, as they are left out of what is heard. */
export const audible = ({ muted }: Pick<Part, 'muted'>): boolean => !muted;

/** A file begins at 0: a pick-up needs a bar of its own before the first. In ticks, 0 where there is none. */
export function leadOf(music: Music, course: Course, counts: (part: Part) => boolean = audible): Ticks {
  const [first] = course;
  return first && pickUpOf(music, course, counts) > HANDS ? barTicks(first.ground.metre) : 0;
}

/** Where the last passage of a course is over, in ticks. */
export const endOf = (course: Course): Ticks => {
  const last = course.at(-1);
  return last ? last.start + last.part.to : 0;
};

/** A stretch of the running order, in its ticks, that is a file of its own. */
export interface Stretch {
  readonly span: Span;
  /** How often it is played: what is left to chance differs each time. */
  readonly rounds: number;
  /** What it is called in the names of its files. */
  readonly name: string;
}

/** How music is handed over. */
export interface DeliveryOptions {
  /** True where each voice of an ensemble is a line of its own. */
  readonly apart?: boolean;
  /** True where the instruments that double a part are in its own track, each on a channel of its own. */
  readonly layersTogether?: boolean;
  /** True where every drum of a kit is a line of its own, by its name. */
  readonly drumsApart?: boolean;
  /** Ticks to a quarter note; Fendro's own where nothing is said. */
  readonly resolution?: Resolution;
  /** Which key each drum is struck on; General MIDI's where nothing is said. */
  readonly drumKeys?: DrumKeys;
  /** In place of the whole song. */
  readonly stretch?: Stretch | undefined;
}

interface FileRequest extends DeliveryOptions {
  readonly music: Music;
  readonly course: Course;
  readonly title: string;
  /** The parts that sound in it, or the chord line. */
  readonly sounds: (line: LineId) => boolean;
  /** Parts whose pick-up asks for a bar before the first, so that files of one song begin together. */
  readonly together?: (part: Part) => boolean;
  readonly markers?: boolean;
  readonly chordLine?: ChordLine;
}

const PICK_UP = 'A bar stands before bar 1, since the music begins with a pick-up.';

/** What all files are made of: what sounds, when it begins and ends, and who plays it. */
interface Sounding {
  readonly performance: Performance;
  readonly voices: readonly Voice[];
  /** The voices of each track. */
  readonly tracks: readonly (readonly Voice[])[];
  readonly lead: Ticks;
  readonly end: Ticks;
  readonly head: MidiTrack;
  readonly resolution: Resolution;
}

export function soundingOf(request: FileRequest): Sounding {
  const { music, course, title, sounds, together = audible, markers = true, chordLine } = request;
  const {
    apart = false,
    layersTogether = false,
    drumsApart: named = false,
    resolution = OWN_RESOLUTION,
    drumKeys,
  } = request;
  const lead = leadOf(music, course, together);
  const end = endOf(course) + lead;
  const whole = perform({ music, course, only: sounds, ...(chordLine ? { chordLine } : {}) });
  const heard = { ...whole, setup: whole.setup.filter(({ line }) => sounds(line)) };
  const ensembles = music.score.parts.filter(({ role }) => role === 'ensemble').map(({ id }) => id);
  const parted = apart ? voicesApart(heard, new Set(ensembles)) : heard;
  const called = named ? drumsApart(parted) : parted;
  const performance = drumKeys ? laidOut(called, drumKeys) : called;
  return {
    performance,
    voices: performance.setup,
    tracks: layersTogether ? [...byLine(performance.setup).values()] : performance.setup.map((voice) => [voice]),
    lead,
    end,
    resolution,
    head: conductor({ title, course, score: music.score, lead, end, markers }),
  };
}

const byLine = (voices: readonly Voice[]): ReadonlyMap<LineId, readonly Voice[]> =>
  voices.reduce(
    (lines, voice) => lines.set(voice.line, [...(lines.get(voice.line) ?? []), voice]),
    new Map<LineId, readonly Voice[]>(),
  );

/** Voices of one track with where they sound: a track has one port, so what finds no room there is a track of its own. */
function onOnePort(voices: readonly Voice[], addresses: ReadonlyMap<VoiceId, Address>): Addressed[][] {
  const ports = new Map<number, Addressed[]>();
  for (const voice of voices) {
    const address = addresses.get(voice.id) ?? FIRST_ADDRESS;
    ports.set(address.port, [...(ports.get(address.port) ?? []), { voice, address }]);
  }
  return [...ports.values()];
}

const notesIn = ({ performance }: Sounding, voices: readonly Voice[]): number => {
  const written = new Set(voices.map(({ id }) => id));
  return performance.events.filter(({ kind, voice }) => kind === 'note' && written.has(voice)).length;
};

/**
 * A file with several tracks.
 *
 * @param tracks  the voices of each; all that sound where nothing is said
 */
export function written(sounding: Sounding, name: string, tracks = sounding.tracks): Delivery {
  const { lead, head, resolution } = sounding;
  const voices = tracks.flat();
  const addresses = addressesOf(voices);
  const addressed = tracks.flatMap((track) => onOnePort(track, addresses));
  const beyond = addressed.flat().filter(({ address }) => address.port > 0);
  const lines = addressed.map((track) => voiceTrack(track, beyond.length > 0, sounding));
  const elsewhere = beyond.map(({ voice }) => voice.name).join(', ');
  return {
    name,
    bytes: writeMidi(atResolution({ type: 1, tracks: [head, ...lines] }, resolution)),
    notes: notesIn(sounding, voices),
    remarks: [
      ...(lead > 0 ? [PICK_UP] : []),
      ...(beyond.length > 0 ? [`On a further MIDI port, with channels of its own: ${elsewhere}.`] : []),
    ],
  };
}

const forAudible = (score: Score): ((line: LineId) => boolean) => {
  const lines = new Set(score.parts.filter(audible).map(({ id }) => id));
  return (line) => lines.has(line);
};

/** What a file is called after the song: nothing, or the stretch of it that it holds. */
const stretched = ({ stretch }: DeliveryOptions): readonly string[] => (stretch ? [stretch.name] : []);

/** The running order, or a stretch of it from tick 0 on. */
export const courseOf = (score: Score, stretch: Stretch | undefined): Course =>
  stretch
    ? begunAt(loopCourse(score, stretch.span, layOut(score), stretch.rounds), stretch.span.from)
    : songCourse(score);

/** What is asked for where nothing else is said: the whole song, with all that is not muted. */
export const asSong = (music: Music, options: DeliveryOptions = {}): FileRequest => ({
  ...options,
  music,
  course: courseOf(music.score, options.stretch),
  title: [music.score.title, ...stretched(options)].join(' – '),
  sounds: forAudible(music.score),
});

/** The whole song, or a stretch of it, as one file, a track for each line. */
export const deliverSong = (music: Music, options: DeliveryOptions = {}): Delivery =>
  written(soundingOf(asSong(music, options)), fileNameOf([music.score.title, ...stretched(options)], '.mid'));

/** A file of one track, or why there is none. */
export type OneTrack =
  | { readonly ok: true; readonly delivery: Delivery }
  | { readonly ok: false; readonly reason: string };

/** The whole song in one track, whose channels its lines have to share out among themselves. */
export function deliverOneTrack(music: Music, options: DeliveryOptions = {}): OneTrack {
  const sounding = soundingOf(asSong(music, options));
  const { voices, lead, head } = sounding;
  const addresses = addressesInOneTrack(voices);
  if (!addresses) {
    const pitched = voices.filter(({ drums }) => !drums).length;
    return {
      ok: false,
      reason:
        `One track has ${PITCHED_CHANNELS.length} channels for pitches, and ${pitched} pitched lines sound: ` +
        'the song is handed over with a track for each part only.',
    };
  }
  const kits = [...new Set(voices.filter(({ drums }) => drums).map(({ id, kit }) => kit ?? id))];
  const [first] = voices.filter(({ drums }) => drums);
  const shared = `All drums are on channel 10 here, and so share the kit and level of ${first?.name}.`;
  return {
    ok: true,
    delivery: {
      name: fileNameOf([music.score.title, ...stretched(options)], ' (one track).mid'),
      bytes: writeMidi(
        atResolution({ type: 0, tracks: [oneTrack(head, voices, addresses, sounding)] }, sounding.resolution),
      ),
      notes: notesIn(sounding, voices),
      remarks: [...(lead > 0 ? [PICK_UP] : []), ...(kits.length > 1 ? [shared] : [])],
    },
  };
}

/** A track's name: that of its first voice. */
const trackName = ([first]: readonly Voice[]): string => first?.name ?? '';

/** The names of the tracks that are handed over, in their order. */
export const trackNames = (music: Music, options: DeliveryOptions = {}): readonly string[] =>
  soundingOf(asSong(music, options)).tracks.map(trackName);

/** Each track over the whole song in a file of its own. */
export function deliverLines(music: Music, options: DeliveryOptions = {}): readonly Delivery[] {
  const sounding = soundingOf(asSong(music, options));
  return sounding.tracks.map((track, index) =>
    written(
      sounding,
      fileNameOf([`${String(index + 1).padStart(2, '0')} ${trackName(track)}`, ...stretched(options)], '.mid'),
      [track],
    ),
  );
}

/**
 * The chord line over the whole song, as each section voices and strikes it.
 *
 * @returns null where the song has no chords
 */
export function deliverChords(music: Music, options: DeliveryOptions = {}): Delivery | null {
  const sounding = soundingOf({
    ...asSong(music, options),
    sounds: (line) => line === HARMONY,
    chordLine: ({ chordSetting }) => chordSetting,
  });
  const file = written(sounding, fileNameOf([music.score.title, 'Chords', ...stretched(options)], '.mid'));
  return file.notes === 0 ? null : file;
}

/** Everything a song hands over, in the order in which it is listed: the song, then each part that sounds. */
export const deliverAll = (music: Music): Delivery[] => [deliverSong(music), ...deliverLines(music)];

/** The same score as written: without what players' hands and the style's feel add when it sounds. */
export const asWritten = (score: Score): Score => ({
  ...score,
  ground: { ...score.ground, feel: 0 },
  parts: score.parts.map((part) => ({ ...part, brief: { ...part.brief, humanise: 0 } })),
});
