/** A key that is pressed. Angular's component kit reads its code, which browsers still send and the types call old. */
export const keyPress = (key: string, code: number): KeyboardEvent =>
  // oxlint-disable-next-line typescript/no-deprecated -- see above
  new KeyboardEvent('keydown', { key, keyCode: code, bubbles: true, cancelable: true });
