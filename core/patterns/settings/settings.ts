import type { Pattern } from '../../song/schema';
import { drawnSettings } from './drawn-settings';
import { loopsSettings } from './loop-settings';
import { bound, type BoundSetting, type SettingContext } from '../../settings/setting';
import { isSilent, wanderingSettings } from './wandering-settings';

/** All that a pattern says of itself on the whole, in the order of its sentence. */
export function settingsOf(pattern: Pattern, context: SettingContext): readonly BoundSetting<Pattern>[] {
  switch (pattern.of) {
    case 'drawn':
      return bound(drawnSettings(context), pattern);
    case 'loops':
      return bound(loopsSettings(context), pattern);
    case 'wandering':
      return bound(wanderingSettings(context), pattern).filter(({ id }) => !isSilent(id, pattern));
  }
}
