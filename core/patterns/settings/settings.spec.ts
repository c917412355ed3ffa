import * as fc from 'fast-check';
import { patternSchema } from '../../song/schema';
import { patterns } from '../../testing/patterns';
import { loopSettings } from './loop-settings';
import { choiceOf, stepped, type SettingContext } from '../../settings/setting';
import { settingsOf } from './settings';

const context: SettingContext = { key: { tonic: 0, scale: 'major' }, sayPitch: (pitch) => `note ${pitch}` };

describe('settings of a pattern', () => {
  it('each make a valid pattern of a valid one, and say what they were set to', () => {
    fc.assert(
      fc.property(patterns(), fc.nat(), fc.nat(), (pattern, which, to) => {
        const settings = settingsOf(pattern, context);
        const setting = settings[which % settings.length]!;
        const choice = setting.choices[to % setting.choices.length]!;
        const changed = patternSchema.parse(setting.set(choice.value));
        // A value that a setting takes may make others silent, never itself.
        const now = settingsOf(changed, context).find(({ id }) => id === setting.id);
        if (now) expect(now.value).toBe(choice.value);
      }),
      { numRuns: 400 },
    );
  });

  it('are all said in words, by the nearest where they stand between', () => {
    fc.assert(
      fc.property(patterns(), (pattern) => {
        for (const setting of settingsOf(pattern, context)) {
          expect(choiceOf(setting)?.text).not.toBe('');
          expect(new Set(setting.choices.map(({ text }) => text)).size).toBe(setting.choices.length);
        }
      }),
    );
    const between = { choices: [0, 50, 100].map((value) => ({ value, text: `${value} %` })), value: 60 };
    expect([choiceOf(between)?.value, stepped(between, 1)?.value, stepped(between, -1)?.value]).toEqual([50, 100, 0]);
    expect(stepped({ ...between, value: 100 }, 1)?.value).toBe(100);
  });

  it('step through everything that a loop can be', () => {
    for (const { choices } of loopSettings) expect(choices.length).toBeGreaterThan(3);
  });
});
