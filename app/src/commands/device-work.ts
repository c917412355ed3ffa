import { inject, Injectable } from '@angular/core';
import { ClockSender } from '../desks/devices/clock-sender';
import { PartSender } from '../desks/devices/part-sender';
import { LearnedControls } from './learned-controls';

/** All that goes on with devices without a page: controls do what they learned, clocks and parts go out. */
@Injectable({ providedIn: 'root' })
export class DeviceWork {
  constructor() {
    inject(LearnedControls);
    inject(ClockSender);
    inject(PartSender);
  }
}
