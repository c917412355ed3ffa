import '@fendro/core/song/validation';
import * as z from 'zod';
import { deviceControlSchema } from '@fendro/core/live/device-control';
import { MOVE_KINDS } from '@fendro/core/song/moves';
import { LIMITS } from '@fendro/core/song/limits';

/** How systems name their devices. */
const deviceName = z.string().min(1).max(200);
const pitch = z.number().int().min(0).max(127);

/** What a device does here. The same name is the same device, in whatever plug it sits. */
export const deviceSchema = z
  .object({
    id: deviceName,
    /** Whether its keys play the line in focus. */
    plays: z.boolean(),
    /** Whether keys sound as they are, or the nearest note that does not rub against the chord. */
    keys: z.enum(['as they are', 'fitted']),
    /** Keys below this one choose chords; null where none does. */
    split: pitch.nullable(),
    /** Whether the music follows its clock. */
    leads: z.boolean(),
    /** Whether it is given the clock of the music. */
    clocked: z.boolean(),
  })
  .readonly();
export type DeviceUse = z.infer<typeof deviceSchema>;

/** What a control does: any command, or the slider of a part, by its place in the mix, counted from 0. */
const deedSchema = z
  .union([
    z.object({ command: z.string().min(1).max(80) }).readonly(),
    z
      .object({
        slider: z.enum(MOVE_KINDS),
        place: z
          .number()
          .int()
          .min(0)
          .max(LIMITS.parts - 1),
      })
      .readonly(),
  ])
  .readonly();

/** What was learned of a control. */
export const learnedSchema = z
  .object({ id: z.string().min(1).max(100), device: deviceName, control: deviceControlSchema, does: deedSchema })
  .readonly();
export type Learned = z.infer<typeof learnedSchema>;
export type Deed = Learned['does'];

/** Where a line of a song goes out, by the song and the line. */
export const routeSchema = z
  .object({
    id: z.string().min(1).max(200),
    port: deviceName,
    channel: z.number().int().min(0).max(15),
    /** Whether it sounds here as well. */
    here: z.boolean(),
  })
  .readonly();
export type Route = z.infer<typeof routeSchema>;
