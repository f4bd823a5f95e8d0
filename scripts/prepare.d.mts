export function digestOf(paths: string[]): string;
export function build(): void;
