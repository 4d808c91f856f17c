import { CompiledQuery, Transaction, type Kysely } from 'kysely'

export interface TransactionSettings {
  /** All statements see the state at the first one. */
  readonly isOneMoment?: boolean
  readonly isReadOnly?: boolean
}

const begin = ({ isOneMoment, isReadOnly }: TransactionSettings): string =>
  `start transaction${isOneMoment ? ' isolation level repeatable read' : ''}${isReadOnly ? ' read only' : ''}`

/**
 * Works in one transaction whose statements go out as they are asked, each without waiting for the answer to the one
 * before; the database carries them out in that order. The query builder's own transactions let every statement wait, so that
 * what is asked side by side takes as many ways to the database and back.
 * @throws what the work throws, after everything was rolled back
 */
export function inTransaction<DB, T>(
  db: Kysely<DB>,
  settings: TransactionSettings,
  work: (transaction: Transaction<DB>) => Promise<T>,
): Promise<T> {
  const executor = db.getExecutor()
  return executor.provideConnection(async (connection) => {
    const send = (statement: string) => connection.executeQuery(CompiledQuery.raw(statement))
    // Nothing of it opens another connection or asks what tables there are, so it needs neither driver nor dialect.
    const none = {} as never
    const transaction = new Transaction<DB>({
      config: none,
      driver: none,
      dialect: none,
      executor: executor.withConnectionProvider({ provideConnection: (consumer) => consumer(connection) }),
    })
    try {
      const [, answer] = await Promise.all([send(begin(settings)), work(transaction)])
      await send('commit')
      return answer
    } catch (error) {
      // Behind everything that was sent. A connection that is gone has rolled back by itself.
      await send('rollback').catch(() => undefined)
      throw error
    }
  })
}
