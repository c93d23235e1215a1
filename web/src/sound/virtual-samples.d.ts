/** Made at build by `web/samples.ts`: addresses of the sounds, by the note's name. */
declare module 'virtual:samples' {
  export const violin: Readonly<Record<string, string>>;
  export const cello: Readonly<Record<string, string>>;
  export const bass: Readonly<Record<string, string>>;
}
