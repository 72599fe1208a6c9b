// Writes the types of the API's description. Bytes are a Blob: that is what a browser sends.
import { writeFile } from 'node:fs/promises'
import { URL } from 'node:url'
import openapiTS, { astToString } from 'openapi-typescript'
import ts from 'typescript'

const BLOB = ts.factory.createTypeReferenceNode(ts.factory.createIdentifier('Blob'))
const from = new URL('../src/api/openapi.json', import.meta.url)
const to = new URL('../src/api/schema.d.ts', import.meta.url)

const types = await openapiTS(from, {
  transform: (schema) => (schema.format === 'binary' ? BLOB : undefined),
})
await writeFile(to, astToString(types))
