import { join } from 'node:path'

/**
 * Asks a thread of its own, so that a damaged file holds up nobody else. One that takes too long or too much memory is
 * ended, and answers nothing.
 * @param file the thread's JavaScript, from the root of the project on
 * @param most what it may take: milliseconds, and MiB of memory beside the bytes
 */
export function inThread<Answer>(
  file: string,
  bytes: Uint8Array,
  most: { readonly time: number; readonly memory: number },
): Promise<Answer | undefined> {
  return new Promise((resolve) => {
    // Asked for by name at run time: a bundler that saw the constructor would put the file elsewhere.
    const { Worker } = process.getBuiltinModule('node:worker_threads')
    const worker = new Worker(join(process.cwd(), file), {
      workerData: Uint8Array.from(bytes),
      resourceLimits: { maxOldGenerationSizeMb: most.memory },
      execArgv: [],
    })
    const end = (answer: Answer | undefined) => {
      clearTimeout(timer)
      resolve(answer)
      void worker.terminate()
    }
    const timer = setTimeout(() => end(undefined), most.time)
    worker.once('message', (answer: Answer) => end(answer))
    worker.once('error', () => end(undefined))
    worker.once('exit', () => end(undefined))
  })
}
