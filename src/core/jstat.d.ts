declare module 'jstat' {
  const jstat: {
    /** Student's t distribution. */
    studentt: {
      /** Quantile at p for the given degrees of freedom. */
      inv(p: number, freedom: number): number;
    };
  };
  export default jstat;
}
