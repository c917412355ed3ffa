import type { Pattern } from '../../song/schema';
import { drawnSettings } from './drawn-settings';
import { loopsSettings } from './loop-settings';
import type { BoundSetting, Setting, SettingContext } from './setting';
import { isSilent, wanderingSettings } from './wandering-settings';

const bound = <P extends Pattern>(settings: readonly Setting<P>[], pattern: P): BoundSetting[] =>
  settings.map(({ value, set, ...setting }) => ({ ...setting, value: value(pattern), set: (to) => set(pattern, to) }));

/** All that a pattern says of itself on the whole, in the order of its sentence. */
export function settingsOf(pattern: Pattern, context: SettingContext): readonly BoundSetting[] {
  switch (pattern.of) {
    case 'drawn':
      return bound(drawnSettings(context), pattern);
    case 'loops':
      return bound(loopsSettings(context), pattern);
    case 'wandering':
      return bound(wanderingSettings(context), pattern).filter(({ id }) => !isSilent(id, pattern));
  }
}
