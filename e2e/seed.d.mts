export const ROOT: string;
export function seededFolder(): Promise<string>;
