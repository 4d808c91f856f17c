// Before the tests of every file. Properties that name no number of cases of their own are tried with fast-check's
// hundred; KEDGE_RUNS=5000 tries all with as many. Only then is the package loaded: most files have no property.
if (process.env.KEDGE_RUNS) {
  const { default: fc } = await import('fast-check')
  fc.configureGlobal({ numRuns: Number(process.env.KEDGE_RUNS) })
}

export {}
