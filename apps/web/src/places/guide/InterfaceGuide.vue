<script setup lang="ts">
// The HTTP interface, readable: every address with who may call it, made from the OpenAPI description.
import { onMounted, ref, shallowRef } from 'vue'

interface Operation {
  summary: string
  description: string
  requestBody?: { content: Record<string, { schema: unknown }> }
}
const rows = shallowRef<{ method: string; path: string; operation: Operation }[]>([])
const says = ref('')
onMounted(async () => {
  try {
    const file = (await (await fetch('/api/openapi.json')).json()) as {
      paths: Record<string, Record<string, Operation>>
    }
    rows.value = Object.entries(file.paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({ method, path, operation })),
    )
  } catch {
    says.value = 'The description cannot be read just now.'
  }
})
const body = (o: Operation) => {
  const schema = Object.values(o.requestBody?.content ?? {})[0]?.schema
  return schema && Object.keys(schema).length ? JSON.stringify(schema, null, 2) : ''
}
</script>

<template>
  <h1 class="mt-3">HTTP interface</h1>
  <p class="quiet">
    Everything this application does goes through these addresses. The machine-readable description is
    <a href="/api/openapi.json">openapi.json</a> (OpenAPI 3.1); a loop’s folder is described by
    <a href="/api/schemas/folder.json">folder.json</a> (JSON Schema). Errors are problem details (RFC 9457) with a
    stable code.
  </p>
  <p v-if="says" role="alert">{{ says }}</p>
  <article v-for="row in rows" :key="row.method + row.path" class="row">
    <p class="address figures">
      <b>{{ row.method.toUpperCase() }}</b> {{ row.path }}
    </p>
    <div>
      <p>{{ row.operation.summary }}</p>
      <p class="small quiet">{{ row.operation.description }}</p>
      <details v-if="body(row.operation)">
        <summary>what it is sent</summary>
        <pre class="figures" tabindex="0">{{ body(row.operation) }}</pre>
      </details>
    </div>
  </article>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 24px;
  padding: 12px 0;
  border-top: 1px solid var(--hairline);
}
.address {
  overflow-wrap: anywhere;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
}
pre {
  font-size: 14px;
  max-height: 300px;
  overflow: auto;
  white-space: pre-wrap;
}
@media (max-width: 900px) {
  .row {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
