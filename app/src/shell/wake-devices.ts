import { computed, effect, inject, Injector, untracked } from '@angular/core';
import { Shelf } from '../store/shelf';

/** Devices are listened to from the start where the writer has used some before; their code is fetched only then. */
export function wakeDevices(): void {
  const [shelf, injector] = [inject(Shelf), inject(Injector)];
  const used = computed(() => {
    const { devices, controls, routes } = shelf.contents();
    return devices.length + controls.length + routes.length > 0;
  });
  effect(() => {
    if (used()) untracked(() => void wake(injector));
  });
}

async function wake(injector: Injector): Promise<void> {
  const [{ DeviceWork }, { WebMidiSystem }] = await Promise.all([
    import('../commands/device-work'),
    import('../devices/web-midi'),
  ]);
  injector.get(DeviceWork);
  await injector.get(WebMidiSystem).reopen();
}
