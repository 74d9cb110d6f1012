<script setup lang="ts">
import { computed, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { RunComparison, RunView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { bytes, count, time } from '@/wording/format'

/** What a run restored, as long as it is held: looked at, taken out, compared with another run's. */
const props = defineProps<{ run: RunView; others: RunView[]; mayWork: boolean }>()

const { attempt, problem: failure } = useAttempt()
const { data: files, problem } = useServerData('/api/drill-runs/{id}/files', () => ({
  params: { path: { id: props.run.id } },
}))
const SHOWN = 500
const other = ref('')
const comparison = ref<RunComparison>()
const lines = ref<{ path: string; lines?: string[] }>()

const held = computed(() =>
  props.others
    .filter((r) => r.id !== props.run.id && r.cleanup === 'holding')
    .filter((r) => r.resource === props.run.resource)
    .map((r) => ({
      title: `${r.pointDataTime ? time(r.pointDataTime) : r.point} · ${r.point}`,
      value: r.id,
    })),
)

const CHANGES: Record<string, string> = {
  changed: 'other bytes',
  attributes: 'same bytes, other attributes',
  'only-first': 'only here',
  'only-second': 'only there',
}

function compare() {
  lines.value = undefined
  return attempt(async () => {
    comparison.value = await answerOf(
      api.GET('/api/file-comparisons', {
        params: { query: { first: props.run.id, second: other.value } },
      }),
    )
  })
}

function show(path: string) {
  return attempt(async () => {
    const answer = await answerOf(
      api.GET('/api/line-comparisons', {
        params: { query: { first: props.run.id, second: other.value, path: path } },
      }),
    )
    lines.value = { path, lines: answer.lines }
  })
}
</script>

<template>
  <section class="held" aria-label="Restored files">
    <p v-if="problem" class="small quiet">{{ problem }}</p>
    <template v-else-if="files">
      <details>
        <summary class="small">
          {{ count(files.length, 'restored file', 'restored files')
          }}{{ files.length > SHOWN ? `, the first ${SHOWN} of them here` : '' }}
        </summary>
        <table class="plain small">
          <tbody>
            <tr v-for="f in files.slice(0, SHOWN)" :key="f.path">
              <td class="mono path">{{ f.path }}</td>
              <td class="n mono">{{ bytes(f.sizeBytes) }}</td>
              <td class="mono nowrap quiet"><Moment :at="f.modified" /></td>
              <td>
                <a
                  v-if="mayWork"
                  class="link"
                  :href="`/api/drill-runs/${run.id}/file?path=${encodeURIComponent(f.path)}`"
                  :title="`Who takes ${f.path} out is recorded`"
                  download
                  >take out</a
                >
              </td>
            </tr>
          </tbody>
        </table>
      </details>
      <div v-if="held.length" class="row compare">
        <v-select v-model="other" :items="held" label="Compare with what is held of" />
        <v-btn :disabled="!other" @click="compare">Compare</v-btn>
      </div>
      <p v-if="failure" class="small bad" role="alert">{{ failure }}</p>
      <template v-if="comparison">
        <p class="small">
          {{ count(comparison.different.length, 'file differs', 'files differ') }},
          {{ count(comparison.same, 'is the same', 'are the same') }}.
        </p>
        <table class="plain small">
          <tbody>
            <tr v-for="c in comparison.different.slice(0, SHOWN)" :key="c.path">
              <td class="mono path">{{ c.path }}</td>
              <td>{{ CHANGES[c.change] ?? c.change }}</td>
              <td class="mono nowrap quiet">
                {{ c.first ? `${bytes(c.first.sizeBytes)} ${c.first.mode ?? ''}` : '–' }} →
                {{ c.second ? `${bytes(c.second.sizeBytes)} ${c.second.mode ?? ''}` : '–' }}
              </td>
              <td>
                <button
                  v-if="mayWork && c.change !== 'attributes'"
                  class="link"
                  @click="show(c.path)"
                >
                  lines
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </template>
      <template v-if="lines">
        <p v-if="!lines.lines" class="small quiet">
          {{ lines.path }} is no text, or too long for it.
        </p>
        <pre
          v-else
          class="diff"
          tabindex="0"
          :aria-label="`Lines of ${lines.path} that differ`"
        ><span
          v-for="(l, i) in lines.lines" :key="i"
          :class="l.startsWith('+') ? 'plus' : l.startsWith('-') ? 'minus' : ''">{{ l + '\n' }}</span></pre>
      </template>
    </template>
  </section>
</template>

<style scoped>
.held {
  margin: 6px 0;
}
summary {
  cursor: pointer;
}
.path {
  overflow-wrap: anywhere;
}
.compare {
  display: flex;
  gap: 8px;
  max-width: 560px;
  margin-top: 6px;
  align-items: center;
}
.diff {
  border: 1px solid var(--rule);
  padding: 6px 8px;
  overflow: auto;
  max-height: 300px;
  font: 12px/1.4 var(--mono);
}
.plus {
  color: var(--proven);
}
.minus,
.bad {
  color: var(--disproven);
}
</style>
