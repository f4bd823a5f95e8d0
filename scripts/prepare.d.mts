export function digestOf(paths: string[]): string;
