/** The part of Verovio's interface that we use; the package ships no types. */
declare module 'verovio/wasm' {
  export default function createVerovioModule(): Promise<object>;
}
declare module 'verovio/esm' {
  export class VerovioToolkit {
    constructor(module: object);
    setOptions(options: Readonly<Record<string, unknown>>): void;
    loadData(data: string): boolean;
    renderToSVG(page: number): string;
    getLog(): string;
  }
}
