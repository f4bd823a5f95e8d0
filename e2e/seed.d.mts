export const ROOT: string;
export function seededFolder(): string;
