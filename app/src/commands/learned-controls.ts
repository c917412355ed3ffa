import { effect, inject, Injectable, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { PRESSED, sameControl, sayControl, touchOf, type ControlTouch } from '@fendro/core/live/device-control';
import type { MidiMessage } from '@fendro/core/live/midi-message';
import { capitalised } from '@fendro/core/song/limits';
import { MOVES } from '@fendro/core/song/moves';
import { DeviceDesk } from '../desks/devices/device-desk';
import { DeviceUses } from '../desks/devices/device-uses';
import { Teaching, type ControlPlace, type Deed } from '../desks/devices/teaching';
import { MixDesk } from '../desks/mix-desk';
import { PlayDesk } from '../desks/playing/play-desk';
import { Notices } from '../store/notices';
import { selectOwnScore } from '../store/selectors';
import type { Command } from './command';
import { Commands } from './commands';

/** Sliders are followed so often, in ms: devices say more than anybody hears. */
const FOLLOWED_EVERY_MS = 12;

/** Lets controls of devices do what they have learned: run commands, and move the sliders of parts. */
@Injectable({ providedIn: 'root' })
export class LearnedControls {
  private readonly commands = inject(Commands);
  private readonly teaching = inject(Teaching);
  private readonly uses = inject(DeviceUses);
  private readonly mix = inject(MixDesk);
  private readonly play = inject(PlayDesk);
  private readonly notices = inject(Notices);
  private readonly score = inject(Store).selectSignal(selectOwnScore);
  /** Controls that are pressed, and what ends that. */
  private readonly pressed = new Map<string, Command | null>();
  /** Where sliders were moved to since they were last followed. */
  private readonly moved = new Map<string, { readonly does: Slide; readonly value: number }>();
  /** The notice that asks to be shown what a control should do. */
  private asks: number | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    document.addEventListener(
      'keydown',
      (event) => {
        if (event.key !== 'Escape' || this.teaching.awaits() === null) return;
        event.preventDefault();
        event.stopPropagation();
        this.teaching.awaits.set(null);
      },
      { capture: true },
    );
    inject(DeviceDesk).first((device, message) => this.hear(device, message));
    // What is no longer awaited is no longer asked for.
    effect(() => {
      const waits = this.teaching.awaits() !== null;
      untracked(() => {
        if (!waits && this.asks !== null) this.notices.dismiss(this.asks);
      });
    });
    effect(() => {
      const learned = this.teaching.last() !== null;
      untracked(() => {
        if (!learned) return;
        // What it held down as a key or a pedal, it holds no more.
        this.play.rest();
        this.tell();
      });
    });
  }

  /** Lets the next thing that is pressed or moved in the song be learned. */
  point(place: ControlPlace): void {
    const text = `Press what ${sayPlace(place)} should do, or move the slider that it should move.`;
    const leave = (): void => {
      this.teaching.awaits.set(null);
    };
    this.asks = this.notices.sayUntilRead(text, { label: 'Leave it', run: leave });
    this.teaching.awaits.set(place);
  }

  private hear(device: string, message: MidiMessage): boolean {
    const touch = touchOf(message);
    if (!touch) return false;
    const place = { device, control: touch.control };
    // A key that comes up was touched already.
    if (touch.value > 0 || touch.control.says === 'control')
      this.teaching.touched.set({ ...place, value: touch.value });
    const does = this.teaching.deedOf(place);
    // A key that went down as a note comes up as one, whatever it has learned meanwhile.
    if (!does || (touch.control.says === 'note' && touch.value === 0 && !this.pressed.has(nameOf(place)))) return false;
    if ('slider' in does) this.slide(nameOf(place), does, touch.value);
    else this.press(nameOf(place), does.command, touch);
    return true;
  }

  private press(name: string, id: string, { control, value }: ControlTouch): void {
    const down = value >= (control.says === 'note' ? 1 : PRESSED);
    if (!down) {
      this.pressed.get(name)?.release?.();
      this.pressed.delete(name);
      return;
    }
    // A slider that stays beyond the middle presses once.
    if (this.pressed.has(name)) return;
    const command = this.commands.known(id);
    if (control.says !== 'program') this.pressed.set(name, command);
    if (command) this.commands.run(command);
  }

  private slide(name: string, does: Slide, value: number): void {
    this.moved.set(name, { does, value });
    this.timer ??= setTimeout(() => {
      this.timer = undefined;
      for (const { does: each, value: to } of this.moved.values()) this.move(each, to);
      this.moved.clear();
    }, FOLLOWED_EVERY_MS);
  }

  private move({ slider, place }: Slide, value: number): void {
    const part = this.score()?.parts[place];
    const { low, high } = MOVES[slider];
    if (part) this.mix.set(part, slider, Math.round(low + ((high - low) * value) / 127));
  }

  /** “Level of Bass”, “Undo”. Reads signals. */
  say(does: Deed): string {
    if (!('slider' in does)) return this.commands.known(does.command)?.words ?? 'something that Fendro no longer does';
    const part = this.score()?.parts[does.place]?.name ?? `part ${does.place + 1}`;
    return `${capitalised(does.slider)} of ${part}`;
  }

  /** Tells what was learned, and whom else that concerns. */
  private tell(): void {
    const last = this.teaching.last();
    if (!last) return;
    const { now, before } = last;
    const { device, control, does } = now;
    const others = this.teaching
      .learned()
      .filter((own) => sameDeed(own.does, does) && !(own.device === device && sameControl(own.control, control)));
    const plays = control.says === 'note' && this.uses.of(device).plays;
    const text = [
      `${sayControl(control)} of ${device}: ${this.say(does)}.`,
      ...(before && !sameDeed(before, does) ? [`It does no more what it did before: ${this.say(before)}.`] : []),
      ...(others.length > 0 ? [`${others.map((own) => sayControl(own.control)).join(' and ')} does so, too.`] : []),
      ...(plays ? ['It plays no note any more.'] : []),
    ].join(' ');
    const back = (): void => {
      if (before) this.teaching.teach(now, before);
      else this.teaching.forget(now);
    };
    this.notices.say(text, { label: 'Put back', run: back });
  }
}

/** “Controller 21, channel 1, of Grey box”. */
export const sayPlace = ({ device, control }: ControlPlace): string => `${sayControl(control)}, of ${device}`;

type Slide = Extract<Deed, { readonly slider: unknown }>;

const nameOf = ({ device, control: { says, channel, number } }: ControlPlace): string =>
  `${device} ${says} ${channel} ${number}`;

const sameDeed = (a: Deed, b: Deed): boolean => JSON.stringify(a) === JSON.stringify(b);
