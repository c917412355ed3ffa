import { findTag, joined, tagAt, variable } from './bytes';
import { eventAt, type NoEvent, type SoundStretch, type TrackEvent } from './track-events';

/** A track that was not sound, as far as it can be read. */
export interface MendedTrack {
  /** Its events with an end, each under a status of its own. */
  readonly body: Uint8Array;
  /** Where what comes after it begins. */
  readonly next: number;
  /** True where it breaks off within an event, and where it came to its end as tracks do. */
  readonly cut: boolean;
  readonly ended: boolean;
  /** How many places could not be read and were stepped over. */
  readonly unreadable: number;
  /** True where a time was so long that it cannot be meant, and was left out. */
  readonly late: boolean;
}

/** So many events after one another that can be read are no accident. */
const TRUSTED = 6;
/** So far is looked for a place where reading can go on. */
const FURTHEST = 4096;
const END = [0x00, 0xff, 0x2f, 0x00] as const;

const isEvent = (read: TrackEvent | NoEvent): read is TrackEvent => read.kind !== 'cut' && read.kind !== 'bad';

/** How far tracks may go. */
interface Reach {
  readonly end: number;
  /** Ticks that a single rest may last at the most. */
  readonly longestRest: number;
}

/** What is known where an event begins: the status that holds on, and whether its time was read before. */
interface State {
  readonly running: number;
  readonly timed: boolean;
}
const FRESH: State = { running: 0, timed: true };

/** True where what stands here reads on for a while, or to the very end. */
function readsOn(bytes: Uint8Array, from: number, state: State, { end, longestRest }: Reach): boolean {
  let [at, { running, timed }] = [from, state];
  for (let read = 0; read < TRUSTED; read++) {
    if (at === end) return read > 0;
    const event = eventAt(bytes, at, end, running, timed);
    if (!isEvent(event) || event.delta > longestRest || event.overlong) return false;
    if (event.kind === 'end') return true;
    if (event.kind === 'channel') running = event.status;
    timed = true;
    at = event.next;
  }
  return true;
}

/** The nearest place from which a track reads on under a status of its own; −1 where there is none. */
function nextPlace(bytes: Uint8Array, from: number, reach: Reach): number {
  const last = Math.min(reach.end, from + FURTHEST);
  for (let at = from; at < last; at++) if (readsOn(bytes, at, FRESH, reach)) return at;
  return -1;
}

/**
 * Reads a broken track event by event: what cannot be read is stepped over to the next place from where it reads on,
 * its time kept; strays are dropped; an end is set where there is none.
 *
 * @param from   its first event
 * @param sound  how far it needs no mending
 */
export function mendTrack(bytes: Uint8Array, from: number, sound: SoundStretch, reach: Reach): MendedTrack {
  const { end, longestRest } = reach;
  const out: number[] = [];
  let { at, running } = sound;
  let [waiting, unreadable] = [0, 0];
  let [cut, ended, late, timed] = [false, false, false, true];
  let next = end;
  while (at < end) {
    const event = eventAt(bytes, at, end, running, timed);
    timed = true;
    if (!isEvent(event)) {
      waiting += event.delta > longestRest ? 0 : event.delta;
      // An event whose length is known may hold one wrong byte only: then reading goes on right after it.
      const known =
        event.kind === 'bad' && event.next <= end && readsOn(bytes, event.next, { running, timed: true }, reach);
      const place = known ? event.next : nextPlace(bytes, at + 1, reach);
      cut = place < 0;
      if (cut) break;
      unreadable++;
      at = place;
      continue;
    }
    if (event.overlong || event.delta > longestRest) late = true;
    else waiting += event.delta;
    if (event.kind === 'end') {
      const ends = event.next >= end || tagAt(bytes, event.next) === 'MTrk';
      if (ends || !readsOn(bytes, event.next, FRESH, reach)) {
        ended = true;
        const track = findTag(bytes, 'MTrk', event.next, end);
        next = track < 0 ? end : track;
        break;
      }
      // Some programs set an end too early and write on.
    } else if (event.kind === 'channel') {
      running = event.status;
      out.push(...variable(waiting), event.status, ...event.data);
      waiting = 0;
    } else if (event.kind === 'long') {
      out.push(...variable(waiting));
      for (let byte = event.body; byte < event.next; byte++) out.push(bytes[byte] as number);
      waiting = 0;
    }
    at = event.next;
    if (event.kind === 'stray') timed = !slippedIn(bytes, at, running, reach);
  }
  return { body: joined([bytes.subarray(from, sound.at), out, END]), next, cut, ended, unreadable, late };
}

/**
 * True where a stray slipped in between a time and its event: what follows is that event, without a time. Otherwise the
 * stray was an event with a time of its own.
 */
function slippedIn(bytes: Uint8Array, next: number, running: number, reach: Reach): boolean {
  if ((bytes[next] ?? 0) >= 0x80) return readsOn(bytes, next, { running, timed: false }, reach);
  return !readsOn(bytes, next, { running, timed: true }, reach);
}
