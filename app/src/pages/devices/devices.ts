import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { DeviceWork } from '../../commands/device-work';
import { ClockFollower } from '../../desks/devices/clock-follower';
import { DeviceDesk } from '../../desks/devices/device-desk';
import { STUDIO_NAME } from '../../devices/simulated/studio-link';
import { SimulatedDevices } from '../../devices/simulated/simulated-devices';
import type { SimulatedIn } from '../../devices/simulated/simulated-in';
import { WebMidiSystem } from '../../devices/web-midi';
import type { Access } from '../../devices/ports';
import { GuideRecorder } from '../../desks/guides/guide-recorder';
import { ChoiceField } from '../../ui/fields/choice-field';
import { ControlList } from './control-list';
import { DeviceRow } from './device-row';
import { PartRoutes } from './part-routes';
import { SimulatedKeys } from './simulated-keys';
import { SimulatedSliders } from './simulated-sliders';

const ACCESS: Readonly<Record<Access, string>> = {
  'not asked':
    'Fendro does not see your devices yet. Your browser asks you first; nothing they say leaves this machine.',
  asked: 'Your browser asks whether Fendro may see your devices. Answer it there.',
  open: 'What you plug in appears here by itself.',
  refused:
    'Your browser or your system does not let Fendro see devices. Allow MIDI for this page in the settings of the ' +
    'browser, then look again.',
  'not there': 'This browser knows no MIDI devices. Another one may; what is simulated below works here, too.',
};

/** Devices: what is connected, what it plays, what its controls do; with simulated ones to try it all. */
@Component({
  selector: 'fd-devices',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, ControlList, DeviceRow, MatButton, PartRoutes, SimulatedKeys, SimulatedSliders],
  templateUrl: './devices.html',
  styleUrls: ['../pages.scss', './devices.scss'],
})
export class Devices {
  protected readonly midi = inject(WebMidiSystem);
  protected readonly simulated = inject(SimulatedDevices);
  protected readonly desk = inject(DeviceDesk);
  protected readonly access = computed(() => ACCESS[this.midi.access()]);
  /** The names of real ones: the same device plays and is played to. */
  protected readonly real = computed(() => {
    const all = [...this.desk.inputs(), ...this.desk.outputs()].filter(({ simulated }) => !simulated);
    return [...new Set(all.map(({ name }) => name))];
  });
  protected readonly studio = STUDIO_NAME;
  protected readonly studioThere = computed(() => this.desk.outputs().some(({ name }) => name === STUDIO_NAME));
  protected readonly led = inject(ClockFollower).led;
  protected readonly recorder = inject(GuideRecorder);

  constructor() {
    // From here on controls do what they learned, and clocks and parts go out.
    inject(DeviceWork);
  }

  protected toggle(device: SimulatedIn): void {
    if (this.simulated.isIn(device)) this.simulated.pull(device);
    else this.simulated.plug(device);
  }
}
