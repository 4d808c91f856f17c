/** The rows of a CSV file, empty ones left out, or why the file is none. */
export async function readCsv(file: {
  readonly name: string
  readonly text: () => Promise<string>
}): Promise<{ readonly rows: readonly (readonly string[])[] } | { readonly problem: string }> {
  const { parse } = await import('csv-parse/browser/esm/sync')
  try {
    const rows: string[][] = parse(await file.text(), {
      bom: true,
      relax_column_count: true,
      skip_empty_lines: true,
      trim: true,
    })
    return { rows }
  } catch (error) {
    return { problem: `${file.name} is not a CSV file: ${error instanceof Error ? error.message : ''}` }
  }
}
