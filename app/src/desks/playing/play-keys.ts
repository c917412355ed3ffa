import type { Addition } from '@fendro/core/live/chords-offered';

/** Keys by where they lie, whatever they type: five columns for the left hand, in the order in which chords lie there. */
export const LEFT_KEYS = [
  ...['KeyQ', 'KeyW', 'KeyE', 'KeyR', 'KeyT'],
  ...['KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyG'],
  ...['KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB'],
] as const;

/** Five columns for the right hand: notes over strokes over steps. */
export const RIGHT_KEYS = [
  ...['KeyY', 'KeyU', 'KeyI', 'KeyO', 'KeyP'],
  ...['KeyH', 'KeyJ', 'KeyK', 'KeyL', 'Semicolon'],
  ...['KeyN', 'KeyM', 'Comma', 'Period', 'Slash'],
] as const;

/** Figures that add to a chord while they are held. */
export const ADDING_KEYS: ReadonlyMap<string, Addition> = new Map([
  ['Digit1', 'seventh'],
  ['Digit2', 'ninth'],
  ['Digit3', 'suspension'],
  ['Digit4', 'sixth'],
]);

/** Either Shift turns the chord: the chord note that then lies lowest, counted from the root. */
export const TURNING_KEYS: ReadonlyMap<string, number> = new Map([
  ['ShiftLeft', 1],
  ['ShiftRight', 2],
]);

const SIGNS: Readonly<Record<string, string>> = { Semicolon: ';', Comma: ',', Period: '.', Slash: '/' };

/** What a key is called where nobody knows the keyboard better. */
export const plainLabel = (code: string): string => SIGNS[code] ?? code.replace(/^(?:Key|Digit)/, '');

interface Keyboard {
  getLayoutMap?: () => Promise<ReadonlyMap<string, string>>;
}

/** What stands on the keys of this keyboard, where the browser tells it. */
export async function labelsOf(codes: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const { keyboard } = navigator as { readonly keyboard?: Keyboard };
  const layout = await keyboard?.getLayoutMap?.().catch(() => undefined);
  return new Map(codes.map((code) => [code, layout?.get(code)?.toUpperCase() ?? plainLabel(code)]));
}
