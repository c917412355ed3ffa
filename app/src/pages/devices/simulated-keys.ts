import { ChangeDetectionStrategy, Component, computed, inject, OnDestroy, signal } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField, MatLabel } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Store } from '@ngrx/store';
import { sayPitch } from '@fendro/core/live/device-control';
import { readScript, type ScriptedNote } from '@fendro/core/live/script';
import { range, type MidiNote } from '@fendro/core/theory/units';
import { RunsCommand } from '../../commands/runs-command';
import { SimulatedDevices } from '../../devices/simulated/simulated-devices';
import { selectGround } from '../../store/selectors';
import { SlideField } from '../../ui/fields/slide-field';
import { Pressing } from '../../ui/pressing';

/** The lowest note that is on the page, and how many there are: two octaves. */
const [LOWEST, NOTES] = [48, 25];
const PEDAL = 64;

/** The simulated keyboard: notes that are pressed as long as they should sound, a pedal, a bend, and a script. */
@Component({
  selector: 'fd-simulated-keys',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButton,
    MatCheckbox,
    MatFormField,
    MatInput,
    MatLabel,
    Pressing,
    ReactiveFormsModule,
    RunsCommand,
    SlideField,
  ],
  template: `
    <div class="notes" role="group" aria-label="Notes of the simulated keyboard">
      @for (note of notes; track note.pitch) {
        <button fdPressing (pressed)="strike(note.pitch, $event)" (released)="letGo(note.pitch, $event)">
          {{ note.name }}
        </button>
      }
    </div>
    <div class="more">
      <mat-checkbox [checked]="pedal()" (change)="press($event.checked)">Pedal</mat-checkbox>
      <fd-slide-field shown="Bend" label="Bend" [least]="-100" [usual]="0" [value]="bent()" (moved)="bend($event)" />
      <fd-slide-field
        shown="Struck"
        label="How hard notes are struck"
        [least]="1"
        [most]="127"
        [value]="hard()"
        (moved)="hard.set($event)"
      />
      <button matButton="outlined" class="small" fdRuns="play.record">Record it</button>
      <button matButton="outlined" class="small" fdRuns="play.take">Take what was played</button>
    </div>
    <form (submit)="playScript($event)">
      <mat-form-field>
        <mat-label>Notes to play, a beat each</mat-label>
        <input matInput autocomplete="off" spellcheck="false" [formControl]="script" />
      </mat-form-field>
      <button matButton="outlined" class="small">{{ plays() ? 'Stop them' : 'Play them' }}</button>
    </form>
    @if (problem(); as text) {
      <p class="problem" role="alert">{{ text }}</p>
    }
  `,
  styleUrl: './simulated.scss',
})
export class SimulatedKeys implements OnDestroy {
  private readonly keyboard = inject(SimulatedDevices).keyboard;
  private readonly ground = inject(Store).selectSignal(selectGround);
  private readonly beat = computed(() => 60_000 / (this.ground()?.tempo ?? 120));
  protected readonly notes = range(NOTES).map((index) => ({ pitch: LOWEST + index, name: sayPitch(LOWEST + index) }));
  protected readonly pedal = signal(false);
  protected readonly bent = signal(0);
  protected readonly hard = signal(88);
  protected readonly problem = signal<string | null>(null);
  protected readonly script = new FormControl('C3+E3+G3 A3 F3 G3', { nonNullable: true });
  /** True while a script plays. */
  protected readonly plays = signal(false);
  private timers: ReturnType<typeof setTimeout>[] = [];
  private readonly down = new Set<MidiNote>();

  protected strike(pitch: MidiNote, at = performance.now()): void {
    this.down.add(pitch);
    this.keyboard.say({ says: 'note on', channel: 0, pitch, velocity: this.hard() }, at);
  }

  protected letGo(pitch: MidiNote, at = performance.now()): void {
    this.down.delete(pitch);
    this.keyboard.say({ says: 'note off', channel: 0, pitch }, at);
  }

  protected press(down: boolean): void {
    this.pedal.set(down);
    this.keyboard.say({ says: 'control', channel: 0, controller: PEDAL, value: down ? 127 : 0 });
  }

  protected bend(percent: number): void {
    this.bent.set(percent);
    this.keyboard.say({ says: 'bend', channel: 0, value: Math.round((percent / 100) * 8191) });
  }

  protected playScript(event: Event): void {
    event.preventDefault();
    if (this.plays()) {
      this.end();
      return;
    }
    const read = readScript(this.script.value);
    this.problem.set(read.ok ? null : read.problem);
    if (!read.ok) return;
    this.plays.set(true);
    const since = performance.now();
    for (const note of read.notes) this.play(note, since);
    this.timers.push(
      setTimeout(() => {
        this.end();
      }, read.beats * this.beat()),
    );
  }

  /** Says each note as of when it was to be struck: a page that is busy comes to it late, a player does not. */
  private play({ pitch, from, to }: ScriptedNote, since: number): void {
    const beat = this.beat();
    const at = (ms: number, act: (pitch: MidiNote, at: number) => void): void => {
      this.timers.push(
        setTimeout(() => {
          act(pitch, since + ms);
        }, ms),
      );
    };
    at(from * beat, (struck, when) => {
      this.strike(struck, when);
    });
    // A little before the beat is over, so that a note that comes again is struck again.
    at(to * beat - 20, (struck, when) => {
      this.letGo(struck, when);
    });
  }

  private end(): void {
    this.timers.forEach(clearTimeout);
    this.timers = [];
    this.plays.set(false);
    for (const pitch of this.down) this.letGo(pitch);
  }

  ngOnDestroy(): void {
    this.end();
  }
}
