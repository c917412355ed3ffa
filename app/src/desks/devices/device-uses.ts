import { computed, inject, Injectable } from '@angular/core';
import type { DeviceUse } from '../../storage/device-schema';
import { Shelf } from '../../store/shelf';

/** A device that is new here: its keys play, fitted to nothing, and no clock goes either way. */
const NEW: Omit<DeviceUse, 'id'> = { plays: true, keys: 'as they are', split: null, leads: false, clocked: false };

/** What each device does here, by its name, as the shelf keeps it. */
@Injectable({ providedIn: 'root' })
export class DeviceUses {
  private readonly shelf = inject(Shelf);
  private readonly known = computed(() => new Map(this.shelf.contents().devices.map((use) => [use.id, use])));

  of(device: string): DeviceUse {
    return this.known().get(device) ?? { id: device, ...NEW };
  }

  change(device: string, change: Partial<Omit<DeviceUse, 'id'>>): void {
    this.shelf.put('devices', { ...this.of(device), ...change });
    if (change.leads === true) this.alone(device);
  }

  /** One clock leads, whoever else led before. */
  private alone(device: string): void {
    for (const use of this.known().values())
      if (use.id !== device && use.leads) this.shelf.put('devices', { ...use, leads: false });
  }
}
