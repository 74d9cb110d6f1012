<script setup lang="ts">
import { computed } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { ImportPreview } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { count } from '@/wording/format'
import ReadingLine from './ReadingLine.vue'

/** What an upload would change, before anything is stored. */
const props = defineProps<{ preview: ImportPreview }>()
const emit = defineEmits<{ accepted: [sentence: string]; dropped: [] }>()

const { attempt, busy, problem } = useAttempt()
const SHOWN = 100

const rejected = computed(() => props.preview.files.reduce((n, f) => n + f.rejected, 0))
const good = computed(() => props.preview.files.reduce((n, f) => n + f.added + f.changed, 0))
const wholeFiles = computed(() => props.preview.files.filter((f) => f.fileRejected))
const readable = computed(() => props.preview.files.filter((f) => !f.fileRejected))

const leftOut = computed(() => props.preview.files.some((f) => f.passedOver))

/** A report is read as several files of the bundle. */
const as = (f: ImportPreview['files'][number]) =>
  f.type && !f.file.includes(f.type) ? ` as ${f.type}` : ''

async function accept(takeGoodRows: boolean) {
  await attempt(async () => {
    const results = await answerOf(
      api.POST('/api/imports/{id}/acceptance', {
        params: { path: { id: props.preview.id } },
        body: {
          takeGoodRows,
        },
      }),
    )
    const taken = results.filter((f) => f.taken)
    const rows = taken.reduce((n, f) => n + f.added + f.changed, 0)
    const out = results.length - taken.length
    emit(
      'accepted',
      `${count(rows, 'row', 'rows')} taken from ${count(taken.length, 'file', 'files')}` +
        (out ? `; ${count(out, 'file was', 'files were')} left out.` : '.'),
    )
  })
}

async function drop() {
  busy.value = true
  try {
    await answerOf(api.DELETE('/api/imports/{id}', { params: { path: { id: props.preview.id } } }))
  } finally {
    emit('dropped')
  }
}
</script>

<template>
  <section class="sheet" aria-label="Preview of the import">
    <h2>Nothing is stored yet. This is what feed “{{ preview.feed }}” would bring</h2>
    <table v-if="readable.length" class="plain">
      <thead>
        <tr>
          <th>File</th>
          <th class="n">Rows read</th>
          <th class="n">New</th>
          <th class="n">Changed</th>
          <th class="n">Unchanged</th>
          <th class="n">Rejected</th>
          <th v-if="leftOut" class="n" title="rows of which the recipe makes none of this kind">
            Left out
          </th>
          <th title="the instant up to which it tells of what happened">Speaks until</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in readable" :key="`${f.file} ${f.type}`">
          <td class="mono">
            {{ f.file }}<span class="quiet">{{ as(f) }}</span>
          </td>
          <td class="n">{{ f.read }}</td>
          <td class="n">{{ f.added }}</td>
          <td class="n">{{ f.changed }}</td>
          <td class="n">{{ f.unchanged }}</td>
          <td class="n" :class="{ wrong: f.rejected }">{{ f.rejected }}</td>
          <td v-if="leftOut" class="n quiet">{{ f.passedOver }}</td>
          <td class="mono nowrap">
            <Moment v-if="f.toldUntil" :at="f.toldUntil" /><template v-else>–</template>
          </td>
        </tr>
      </tbody>
    </table>
    <ul v-if="wholeFiles.length" class="whole">
      <li v-for="f in wholeFiles" :key="`${f.file} ${f.type}`" class="wrong">
        <b class="mono">{{ f.file }}</b>
        <template v-if="f.rejections[0]?.line"> line {{ f.rejections[0].line }}</template>
        <template v-if="f.rejections[0]?.value"> “{{ f.rejections[0].value }}”</template>
        {{ f.rejections[0]?.reason }}. Nothing of it can be taken.
      </li>
    </ul>
    <div
      v-for="f in readable.filter((r) => r.rejections.length)"
      :key="`${f.file} ${f.type}`"
      class="rejections"
    >
      <h3 class="small">Rejected in {{ f.file }}{{ as(f) }}</h3>
      <table class="plain">
        <thead>
          <tr>
            <th class="n">Line</th>
            <th>Field</th>
            <th>Value</th>
            <th>Why</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in f.rejections.slice(0, SHOWN)" :key="i">
            <td class="n">{{ r.line }}</td>
            <td class="mono">{{ r.field }}</td>
            <td class="mono value">{{ r.value }}</td>
            <td>{{ r.reason }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="f.rejected > SHOWN" class="small quiet">… and {{ f.rejected - SHOWN }} more.</p>
    </div>
    <ReadingLine v-if="busy" doing="Taking" />
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <div class="row buttons">
      <v-btn
        v-if="readable.length && !rejected"
        color="primary"
        variant="flat"
        :loading="busy"
        @click="accept(true)"
        >{{
          good ? `Take ${count(good, 'row', 'rows')}` : 'Take: nothing new, the feed has come'
        }}</v-btn
      >
      <template v-if="rejected">
        <v-btn color="primary" variant="flat" :loading="busy" @click="accept(true)"
          >Take the {{ good }} good {{ good === 1 ? 'row' : 'rows' }}</v-btn
        >
        <v-btn v-if="readable.length > 1" :loading="busy" @click="accept(false)"
          >Take only files without a rejected row</v-btn
        >
      </template>
      <v-btn :disabled="busy" @click="drop">Take none</v-btn>
    </div>
  </section>
</template>

<style scoped>
.sheet {
  border: 1px solid var(--rule-strong);
  background: var(--sheet);
  padding: 12px 14px;
  margin: 10px 0 14px;
}
.wrong {
  color: var(--disproven);
}
.whole {
  margin: 8px 0 8px 18px;
}
.rejections {
  margin-top: 10px;
  max-height: 260px;
  overflow: auto;
}
.value {
  overflow-wrap: anywhere;
}
.buttons {
  margin-top: 12px;
}
</style>
