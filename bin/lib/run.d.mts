export function becomesFree(port: number, withinMs?: number): Promise<boolean>
