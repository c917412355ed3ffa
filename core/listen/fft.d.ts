/** The part of fft.js that is used here; it comes without types. */
declare module 'fft.js' {
  export default class FFT {
    /** @param size  a power of two */
    constructor(size: number);
    createComplexArray(): number[];
    /** Writes real and imaginary parts in turn, the lower half of the spectrum alone. */
    realTransform(output: number[], input: ArrayLike<number>): void;
  }
}
