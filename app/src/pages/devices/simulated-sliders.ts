import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { BUTTONS, SimulatedDevices, SLIDERS } from '../../devices/simulated/simulated-devices';
import { SlideField } from '../../ui/fields/slide-field';
import { Pressing } from '../../ui/pressing';

/** The simulated controller: sliders and buttons that say what real ones would. */
@Component({
  selector: 'fd-simulated-sliders',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, Pressing, SlideField],
  template: `
    <div class="sliders">
      @for (controller of sliders; track controller; let index = $index) {
        <fd-slide-field
          [shown]="'Slider ' + (index + 1)"
          [label]="'Simulated slider ' + (index + 1)"
          [most]="127"
          [value]="stands()[index] ?? 0"
          (moved)="move(index, $event)"
        />
      }
    </div>
    <div class="more">
      @for (pitch of buttons; track pitch; let index = $index) {
        <button
          matButton="outlined"
          class="small"
          fdPressing
          (pressed)="press(pitch, true, $event)"
          (released)="press(pitch, false, $event)"
        >
          Simulated button {{ index + 1 }}
        </button>
      }
    </div>
  `,
  styleUrl: './simulated.scss',
})
export class SimulatedSliders {
  private readonly controller = inject(SimulatedDevices).controller;
  protected readonly sliders = SLIDERS;
  protected readonly buttons = BUTTONS;
  protected readonly stands = signal<readonly number[]>(SLIDERS.map(() => 0));

  protected move(index: number, value: number): void {
    this.stands.update((stands) => stands.with(index, value));
    this.controller.say({ says: 'control', channel: 0, controller: SLIDERS[index] ?? 0, value });
  }

  protected press(pitch: number, down: boolean, at: number): void {
    if (down) this.controller.say({ says: 'note on', channel: 9, pitch, velocity: 100 }, at);
    else this.controller.say({ says: 'note off', channel: 9, pitch }, at);
  }
}
