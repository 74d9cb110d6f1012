<script setup lang="ts">
import { computed, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api, formOf } from '@/api/client'
import type { ImportPreview, Rejection } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { useSession } from '@/people/session'
import { count, relative } from '@/wording/format'
import TakeAway from '@/frame/TakeAway.vue'
import ComingList from './ComingList.vue'
import DropArea from './DropArea.vue'
import FeedTable from './FeedTable.vue'
import ImportSheet from './ImportSheet.vue'

const session = useSession()
const { lookingBack } = useAsAt()
const { data, problem, refresh } = useServerData('/api/feeds')
const { data: untold, refresh: askAgain } = useServerData('/api/feeds/untold')
useEvents({ facts: () => void askAgain() })
const mayWork = computed(() => session.mayWork && !lookingBack.value)

const preview = ref<ImportPreview>()
const { attempt, busy: reading, problem: handInProblem } = useAttempt()
const taken = ref('')
const rejections = ref<{ file: string; rows: Rejection[] }>()

const overdue = computed(() => data.value?.feeds.filter((f) => f.overdue) ?? [])
const known = computed(() =>
  Object.entries(data.value?.known ?? {})
    .filter(([, n]) => n > 0)
    .map(
      ([what, n]) =>
        `${n.toLocaleString('en')} ${n === 1 ? what.replace(/ies$/, 'y').replace(/s$/, '') : what}`,
    )
    .join(', '),
)

async function handIn(feed: string, files: File[], recipe: string) {
  taken.value = ''
  const form = new FormData()
  files.forEach((f) => form.append('files', f, f.name))
  await attempt(async () => {
    preview.value = await answerOf(
      api.POST('/api/imports', {
        params: { query: { feed, recipe: recipe || undefined } },
        ...formOf(form),
      }),
    )
  })
}

async function accepted(sentence: string) {
  preview.value = undefined
  taken.value = sentence
  await refresh()
}

async function showRejections(batch: number, file: string) {
  rejections.value = {
    file,
    rows: await answerOf(
      api.GET('/api/import-batches/{id}/rejections', { params: { path: { id: batch } } }),
    ),
  }
}
</script>

<template>
  <div class="page">
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-if="!data && !problem" type="heading, table" color="background" />
    <template v-if="data">
      <p class="lead">
        <template v-if="!data.feeds.length">No facts have been brought in yet.</template>
        <template v-else>
          {{ count(data.feeds.length, 'feed', 'feeds')
          }}<template v-if="overdue.length"
            >, <b class="wrong">{{ overdue.length }} overdue</b></template
          >. Known: {{ known }}.
        </template>
        <router-link class="to" to="/feeds/stores">Stores and what lies on them</router-link>
      </p>
      <p v-for="f in overdue" :key="f.key" class="small">
        {{ f.sentence }}: what depends on it is not known until it comes again.
      </p>

      <ImportSheet
        v-if="preview"
        :preview="preview"
        @accepted="accepted"
        @dropped="preview = undefined"
      />
      <DropArea
        v-else
        :may-work="mayWork"
        :feeds="data.feeds.map((f) => f.key)"
        :files="data.files"
        :reading="reading"
        @hand-in="handIn"
      />
      <p v-if="handInProblem" class="wrong" role="alert">{{ handInProblem }}</p>
      <p v-if="taken" role="status">
        {{ taken }} <router-link to="/board">See the Board</router-link>, or
        <router-link to="/findings?part=plan">what to do and to add first</router-link>. What each
        feed does not tell yet stands below it.
      </p>

      <FeedTable
        v-if="data.feeds.length"
        :feeds="data.feeds"
        :untold="untold ?? []"
        :may-work="mayWork"
        @changed="refresh"
      />

      <ComingList :feeds="data.feeds.map((f) => f.key)" :may-work="mayWork" @came="refresh" />

      <section v-if="data.batches.length" class="block">
        <h2>What came in</h2>
        <table class="plain">
          <thead>
            <tr>
              <th>When</th>
              <th></th>
              <th>Feed</th>
              <th>File</th>
              <th>Brought by</th>
              <th class="n">Read</th>
              <th class="n">Taken</th>
              <th class="n">Unchanged</th>
              <th class="n">Rejected</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="b in data.batches.slice(0, 60)" :key="b.id">
              <td class="mono nowrap"><Moment :at="b.receivedAt" /></td>
              <td class="quiet nowrap">{{ relative(b.receivedAt) }}</td>
              <td>{{ b.feed }}</td>
              <td class="mono">
                {{ b.file
                }}<span v-if="b.type && !b.file.includes(b.type)" class="quiet">
                  as {{ b.type }}</span
                >
              </td>
              <td>{{ b.receivedBy }}</td>
              <td class="n">{{ b.read }}</td>
              <td class="n">{{ b.taken }}</td>
              <td class="n">{{ b.unchanged }}</td>
              <td class="n">
                <button v-if="b.rejected" class="link wrong" @click="showRejections(b.id, b.file)">
                  {{ b.rejected }}</button><template v-else>0</template>
              </td>
            </tr>
          </tbody>
        </table>
        <TakeAway name="imports" :rows="() => data?.batches ?? []" />
      </section>
    </template>

    <v-dialog v-if="rejections" :model-value="true" @update:model-value="rejections = undefined">
      <v-card :title="`Rejected in ${rejections.file}`">
        <v-card-text>
          <table class="plain">
            <tbody>
              <tr v-for="(r, i) in rejections.rows" :key="i">
                <td class="n">line {{ r.line }}</td>
                <td class="mono">{{ r.field }}</td>
                <td class="mono">{{ r.value }}</td>
                <td>{{ r.reason }}</td>
              </tr>
            </tbody>
          </table>
        </v-card-text>
        <v-card-actions
          ><v-btn autofocus @click="rejections = undefined">Close</v-btn></v-card-actions
        >
      </v-card>
    </v-dialog>
  </div>
</template>

<style scoped>
.lead {
  margin: 0 0 8px;
}
.to {
  margin-left: 10px;
}
p {
  margin: 4px 0;
}
.wrong {
  color: var(--disproven);
}
.block {
  margin-top: 14px;
}
</style>
