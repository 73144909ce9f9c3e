declare module 'fft.js' {
  /** Radix-4 FFT (MIT). Arrays hold interleaved real and imaginary parts. */
  export default class FFT {
    constructor(size: number);
    realTransform(out: ArrayLike<number>, data: ArrayLike<number>): void;
    transform(out: ArrayLike<number>, data: ArrayLike<number>): void;
    inverseTransform(out: ArrayLike<number>, data: ArrayLike<number>): void;
  }
}
