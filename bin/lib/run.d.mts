export function becomesFree(port: number, withinMs?: number): Promise<boolean>
export function freePort(): Promise<number>
