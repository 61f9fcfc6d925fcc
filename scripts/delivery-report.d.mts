export function readReport(letter: string | Uint8Array): Promise<{ id: string; status: string } | null>
