import { computed, inject, Injectable, signal } from '@angular/core';
import { sameControl, type DeviceControl } from '@fendro/core/live/device-control';
import type { Deed, Learned } from '../../storage/device-schema';
import { newId } from '../../store/ids';
import { Shelf } from '../../store/shelf';

export type { Deed };

/** A control of a device by its name. */
export interface ControlPlace {
  readonly device: string;
  readonly control: DeviceControl;
}

const samePlace = (a: ControlPlace, b: ControlPlace): boolean =>
  a.device === b.device && sameControl(a.control, b.control);

/** Controls of devices that are taught what to do: by pressing in Fendro what they should press, or moving it. */
@Injectable({ providedIn: 'root' })
export class Teaching {
  private readonly shelf = inject(Shelf);
  readonly learned = computed(() => this.shelf.contents().controls);
  /** The control that waits to be shown what it should do. */
  readonly awaits = signal<ControlPlace | null>(null);
  /** The control that was touched last, and where it stands: 0 to 127. */
  readonly touched = signal<(ControlPlace & { readonly value: number }) | null>(null);
  /** What was learned last, and what the control did until then. */
  readonly last = signal<{ readonly now: Omit<Learned, 'id'>; readonly before: Deed | null } | null>(null);

  deedOf(place: ControlPlace): Deed | null {
    return this.learned().find((own) => samePlace(own, place))?.does ?? null;
  }

  /** Shows the waiting control what to do. @returns whether one was waiting: then nothing else is done */
  shown(does: Deed): boolean {
    const place = this.awaits();
    if (!place) return false;
    this.awaits.set(null);
    this.teach(place, does);
    return true;
  }

  /** One control does one thing: what it did before, it does no more. */
  teach({ device, control }: ControlPlace, does: Deed): void {
    const before = this.deedOf({ device, control });
    this.forget({ device, control });
    const learned = { id: newId('control'), device, control, does };
    if (this.shelf.put('controls', learned)) this.last.set({ now: { device, control, does }, before });
  }

  forget(place: ControlPlace): void {
    for (const own of this.learned()) if (samePlace(own, place)) this.shelf.remove('controls', own.id);
  }
}
