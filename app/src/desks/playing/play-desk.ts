import { computed, effect, inject, Injectable, linkedSignal, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { chordsOffered, type Addition, type OfferedChord } from '@fendro/core/live/chords-offered';
import { handled, RESTING, type HandAction, type HandKey, type Hands } from '@fendro/core/live/hands';
import { fittedTo } from '@fendro/core/live/keys-of-device';
import { chordPlayer, partPlayer, type LivePlayer } from '@fendro/core/live/player';
import { DRUM_TOUCHES, TOUCHES } from '@fendro/core/live/touches';
import { chordsIn, sectionOf } from '@fendro/core/song/resolve';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { secondsPerTick } from '@fendro/core/sounding/tempo-map';
import { sameChord, type Chord } from '@fendro/core/theory/chord';
import { SIXTEENTH, type MidiNote, type Velocity } from '@fendro/core/theory/units';
import { LiveSound } from '../../sound/live-sound';
import { Playback } from '../../sound/playback';
import {
  selectChords,
  selectChordSetting,
  selectLine,
  selectMusic,
  selectPart,
  selectSection,
} from '../../store/selectors';
import { pageMemory } from '../../ui/page-memory';
import { HarmonyDesk } from '../harmony-desk';
import { Captured } from './captured';
import { LEFT_KEYS } from './play-keys';

/** Who chooses chords, and what lets them sound. */
const WAYS = ['two hands', 'one hand', 'strum only'] as const;
export type Way = (typeof WAYS)[number];

/** The chords under the left hand, and what for. */
interface Offered {
  readonly armed: boolean;
  readonly place: string;
  readonly chords: readonly OfferedChord[];
}

const WAY_KEPT = 'fendro play desk way';

const isWay = (text: string | null): text is Way => WAYS.some((way) => way === text);

/** Keys strike alike; who wants it louder or softer turns the part up or down. */
const VELOCITY: Velocity = 88;

/** Chords and lines played by hand on the line in focus: keys, screen and devices all come in here. */
@Injectable({ providedIn: 'root' })
export class PlayDesk {
  private readonly store = inject(Store);
  private readonly live = inject(LiveSound);
  private readonly playback = inject(Playback);
  private readonly harmony = inject(HarmonyDesk);
  private readonly captured = inject(Captured);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly chords = this.store.selectSignal(selectChords);
  private readonly chordSetting = this.store.selectSignal(selectChordSetting);
  readonly part = this.store.selectSignal(selectPart);
  /** True while letters are played instead of meaning commands. */
  readonly armed = signal(false);
  /** True while keys of a device play. */
  readonly listens = signal(false);
  private readonly chosenWay = signal<Way>(rememberedWay());
  readonly hands = signal<Hands>(RESTING);

  readonly player = computed((): LivePlayer => {
    const part = this.part();
    return part ? partPlayer(part, instrumentOf(part.instrument)) : chordPlayer(this.chordSetting());
  });
  /** Drums know no chords: all hands do is strike them. */
  readonly drums = computed(() => this.player().plays === 'drums');
  readonly way = this.chosenWay.asReadonly();
  /** What would lie under the left hand now. */
  private readonly fresh = computed((): Offered => {
    const own = this.chords().flatMap(({ chord }) => chord ?? []);
    const [key, style] = [this.harmony.key(), this.harmony.style()];
    return {
      armed: this.armed(),
      place: `${this.section()?.id} ${key.tonic} ${key.scale} ${style.id}`,
      chords: chordsOffered(own, key, style, LEFT_KEYS.length),
    };
  });
  /** What lies there: no chord moves away under the fingers while letters play, whatever becomes of the section. */
  private readonly stands = linkedSignal<Offered, Offered>({
    source: this.fresh,
    computation: (now, before) => {
      const stays = now.armed && before?.value.armed === true && before.value.place === now.place;
      return stays ? before.value : now;
    },
  });
  readonly offered = computed(() => this.stands().chords);
  readonly touches = computed(() => (this.drums() ? DRUM_TOUCHES : TOUCHES));

  constructor() {
    // Whatever is turned to, or made quiet, nothing goes on sounding of what was played before.
    const place = computed(() => `${this.section()?.id} ${this.line()} ${this.part()?.muted} ${this.way()}`);
    effect(() => {
      place();
      const ready = this.armed() || (this.listens() && this.live.awake());
      untracked(() => {
        this.rest();
        if (ready) void this.live.prepare(this.line());
      });
    });
  }

  setWay(way: Way): void {
    this.chosenWay.set(way);
    pageMemory.set(WAY_KEPT, way);
  }

  /** Lets letters play; sounds are fetched meanwhile. */
  arm(): void {
    this.armed.set(true);
    void this.live.prepare(this.line());
  }

  disarm(): void {
    this.armed.set(false);
    this.rest();
  }

  /** Takes all fingers off. */
  rest(): void {
    this.act({ does: 'rest' });
    this.live.quiet();
  }

  /** A key of the left hand goes down. @param at  when, in ms of the page's clock */
  hold(key: HandKey, place: number, at = performance.now(), velocity = VELOCITY): void {
    const chord = this.offered()[place]?.chord;
    if (!chord || this.drums() || this.way() === 'strum only') return;
    this.act({ does: 'hold', key, chord, sounds: this.way() === 'one hand', velocity }, at);
  }

  /** A key of the right hand goes down. */
  touch(key: HandKey, place: number, at = performance.now(), velocity = VELOCITY): void {
    const touch = this.touches()[place];
    if (!touch) return;
    this.follow(at);
    this.act({ does: 'touch', key, touch, velocity }, at);
  }

  /**
   * A key with a pitch of its own goes down.
   *
   * @param fitted  whether it gives way to the nearest note that does not rub against the chord; drums are struck as
   *   they are
   */
  note(key: HandKey, pitch: MidiNote, fitted: boolean, velocity: Velocity, at = performance.now()): void {
    this.follow(at);
    const fits = fitted && !this.drums();
    const sounds = fits ? fittedTo(pitch, this.hands().chord, this.harmony.key()) : pitch;
    this.act({ does: 'note', key, pitch: sounds, velocity }, at, fits ? this.hands().chord : null);
  }

  pedal(down: boolean, at = performance.now()): void {
    this.act({ does: 'pedal', down }, at);
  }

  /** Bends what sounds. @param cents  up or down */
  bend(cents: number, at = performance.now()): void {
    this.live.bend(cents);
    this.captured.shaped(this.line(), 'bend', cents, at);
  }

  /** Lets what sounds waver. @param depth  in % */
  waver(depth: number, at = performance.now()): void {
    this.live.waver(depth);
    this.captured.shaped(this.line(), 'vibrato', depth, at);
  }

  letGo(key: HandKey, at = performance.now()): void {
    this.act({ does: 'let go', key }, at);
  }

  add(additions: ReadonlySet<Addition>, at = performance.now()): void {
    this.act({ does: 'add', additions }, at);
  }

  /** @param inversion  the chord note that lies lowest; null as it comes */
  turn(inversion: number | null, at = performance.now()): void {
    this.act({ does: 'invert', inversion }, at);
  }

  /**
   * Where the section's chords choose, or nobody has chosen yet, the chord that sounds is under the hand: at a change the
   * one that comes, when it is struck up to a sixteenth early.
   */
  private follow(at: number): void {
    const { chosen } = this.hands();
    if (this.drums() || (this.way() !== 'strum only' && chosen !== null)) return;
    const chord = this.chordAt(at - performance.now());
    if (chord && !(chosen && sameChord(chosen, chord))) this.act({ does: 'follow', chord }, at);
  }

  private chordAt(ahead: number): Chord | null {
    const [music, here] = [this.music(), this.playback.placeAt(ahead)];
    if (!music || !here) return this.harmony.focused()?.chord ?? null;
    const early = 1000 * SIXTEENTH * secondsPerTick(here.ground.tempo);
    const place = this.playback.placeAt(ahead + early) ?? here;
    const section = sectionOf(music.score, place.section);
    const chords = section ? chordsIn(section, music.takes, music.heard) : [];
    return chords.findLast(({ start }) => start <= place.at)?.chord ?? null;
  }

  /** @param under  the chord that is remembered with what is struck; what lies under the hand where it is not said */
  private act(action: HandAction, at = performance.now(), under?: Chord | null): void {
    const { hands, ends, strikes } = handled(this.hands(), action, { player: this.player(), key: this.harmony.key() });
    this.live.sound(ends, strikes, this.part());
    this.hands.set(hands);
    this.captured.ended(ends, at);
    this.captured.struck(this.line(), strikes, under === undefined ? hands.chord : under, at);
  }
}

function rememberedWay(): Way {
  const kept = pageMemory.get(WAY_KEPT);
  return isWay(kept) ? kept : 'two hands';
}
