/** Ends the program with one sentence that says what to do. */
export class Advice extends Error {}

export const say = (text) => process.stdout.write(`${text}\n`)

/** Runs a program's main function; an `Advice` is printed plainly, anything else with its trace. */
export async function main(run) {
  try {
    await run()
  } catch (error) {
    process.stderr.write(error instanceof Advice ? `\n${error.message}\n` : `\n${error.stack ?? error}\n`)
    process.exit(1)
  }
}
