// Every row of a copy on a line of its own, the program's ledger and the next free numbers aside: node rows.mjs FILE
import { createClient } from '@libsql/client'

const client = createClient({ url: 'file:' + process.argv[2] })
const tables = await client.execute("SELECT name, sql FROM sqlite_master WHERE type IN ('table', 'index') AND name NOT LIKE 'sqlite%' ORDER BY name")
for (const { name, sql } of tables.rows) {
  if (name.endsWith('weftex_ledger')) continue
  console.log(name, sql?.replace(/\s+/g, ' '))
  if (!sql?.startsWith('CREATE TABLE')) continue
  for (const row of (await client.execute(`SELECT * FROM "${name}" ORDER BY 1, 2`)).rows) console.log(name, JSON.stringify(row))
}
