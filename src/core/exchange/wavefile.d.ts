declare module 'wavefile/dist/wavefile.js' {
  import type { WaveFile } from 'wavefile';
  const bundle: { WaveFile: typeof WaveFile };
  export default bundle;
}
