declare module 'jstat' {
  interface JStat {
    normal: { cdf(x: number, mean: number, sd: number): number; inv(p: number, mean: number, sd: number): number };
    studentt: { cdf(x: number, df: number): number; inv(p: number, df: number): number };
  }
  const jstat: JStat;
  export default jstat;
}
