import { inject, Injectable, signal } from '@angular/core';
import { leaderOf, leaderTick, meetingTempo, type Leader } from '@fendro/core/live/leader';
import { clockFollowed, UNLED, type Followed } from '@fendro/core/live/midi-clock';
import type { MidiMessage } from '@fendro/core/live/midi-message';
import type { Pace } from '../../sound/pace';
import { Playback } from '../../sound/playback';
import { Notices } from '../../store/notices';
import { DeviceUses } from './device-uses';

/** Who leads the music now, and how fast. */
export interface Led {
  readonly device: string;
  /** In BPM, to a tenth. */
  readonly tempo: number;
}

/** Lets the music begin, go on and stop with the clock of a device that leads. */
@Injectable({ providedIn: 'root' })
export class ClockFollower {
  private readonly playback = inject(Playback);
  private readonly uses = inject(DeviceUses);
  private readonly notices = inject(Notices);
  private clock: Followed = UNLED;
  /** True from when the device says that it begins until the music does. */
  private due = false;
  private readonly now = signal<Led | null>(null);
  readonly led = this.now.asReadonly();

  /** @param at  when it came, in ms of the page's clock. @returns whether it was of a clock */
  hear(device: string, message: MidiMessage, at: number): boolean {
    switch (message.says) {
      case 'start':
      case 'continue':
      case 'stop':
      case 'position':
      case 'clock':
        if (this.uses.of(device).leads) this.follow(device, message, at);
        return true;
      default:
        return false;
    }
  }

  /** A leader that is not there any more leads nothing; what plays goes on as it was. */
  gone(device: string): void {
    if (this.now()?.device !== device) return;
    this.now.set(null);
    this.clock = UNLED;
  }

  private follow(device: string, message: Parameters<typeof clockFollowed>[1], at: number): void {
    const stood = !this.clock.running;
    this.clock = clockFollowed(this.clock, message, at);
    if (message.says === 'stop') {
      this.due = false;
      this.now.set(null);
      this.playback.stop();
    } else if (message.says === 'start' || message.says === 'continue') this.due = true;
    // A place that is told while the clock goes on is a jump.
    else if (message.says === 'position') this.due = this.clock.running;
    if (message.says === 'clock') this.pulsed(device, stood);
  }

  private pulsed(device: string, stood: boolean): void {
    if (stood) return;
    const leader = leaderOf(this.clock);
    if (leader && this.due) this.begin(device, leader);
    const tempo = leader && Math.round(leader.tempo * 10) / 10;
    if (tempo !== null && this.now() !== null && this.now()?.tempo !== tempo) this.now.set({ device, tempo });
  }

  private begin(device: string, leader: Leader): void {
    this.due = false;
    const tempo = Math.round(leader.tempo * 10) / 10;
    this.now.set({ device, tempo });
    void this.playback.playWith(this.pace(leader)).then((plays) => {
      this.notices.say(
        plays
          ? `${device} leads: the music follows its clock, ${tempo} BPM now.`
          : `${device} plays beyond the song's end: there is nothing to play along there.`,
      );
    });
  }

  /** The clock as the music follows it; where it gives no tempo for a moment, the last one goes on. */
  private pace(first: Leader): Pace {
    let last = first;
    const leader = (): Leader => {
      last = leaderOf(this.clock) ?? last;
      return last;
    };
    return {
      tempo: () => leader().tempo,
      tickAt: (moment) => leaderTick(leader(), moment),
      tempoFor: (from, length, moment) => meetingTempo(leader(), from, length, moment),
    };
  }
}
