<script setup lang="ts">
import { ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { FeedView, Untold } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useMay } from '@/people/useMay'
import { duration, relative, typedDuration } from '@/wording/format'
import { sentences } from './untold'

/** How fresh each feed is, and what it never tells; how often it should come can be changed in place. */
const props = defineProps<{ feeds: FeedView[]; untold: Untold[]; mayWork: boolean }>()
const emit = defineEmits<{ changed: [] }>()

const { whyNotWork } = useMay()
const editing = ref('')
const every = ref('')
const { attempt, problem } = useAttempt()

const said = (feed: FeedView) => props.untold.filter((u) => u.feed === feed.key).flatMap(sentences)

function edit(feed: FeedView) {
  editing.value = feed.key
  every.value = feed.expectedEveryMs ? typedDuration(feed.expectedEveryMs) : ''
  problem.value = ''
}

/** A resource that a full listing leaves out counts as not seen since. */
async function setListsAll(feed: FeedView, listsAll: boolean) {
  await attempt(() =>
    answerOf(
      api.PUT('/api/feeds/{key}', {
        params: { path: { key: feed.key } },
        body: {
          expectedEvery: feed.expectedEveryMs ? typedDuration(feed.expectedEveryMs) : undefined,
          fullListings: listsAll ? ['resources'] : [],
        },
      }),
    ),
  )
  // Also after a refusal: the box then shows what holds.
  emit('changed')
}

async function save() {
  await attempt(async () => {
    await answerOf(
      api.PUT('/api/feeds/{key}', {
        params: { path: { key: editing.value } },
        body: { expectedEvery: every.value || undefined },
      }),
    )
    editing.value = ''
    emit('changed')
  })
}
</script>

<template>
  <section class="block">
    <h2>Feeds</h2>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <table class="plain">
      <thead>
        <tr>
          <th>Feed</th>
          <th>Last came</th>
          <th></th>
          <th title="what happened after it nobody has told of yet">Has spoken until</th>
          <th>Expected every</th>
          <th title="what a full listing leaves out counts as not seen since">Resources</th>
          <th class="n" title="facts that name others which are not known yet">Pending</th>
          <th>State</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="f in feeds" :key="f.key">
          <tr :class="{ first: said(f).length }">
            <td>
              <b>{{ f.key }}</b>
            </td>
            <td class="mono nowrap">
              <Moment v-if="f.lastReceived" :at="f.lastReceived" /><template v-else>never</template>
            </td>
            <td class="quiet nowrap">{{ f.lastReceived ? relative(f.lastReceived) : '' }}</td>
            <td class="mono nowrap">
              <Moment v-if="f.horizon" :at="f.horizon" /><template v-else>–</template>
            </td>
            <td>
              <form v-if="editing === f.key" class="row" @submit.prevent="save">
                <v-text-field
                  v-model="every"
                  label="such as 24h, empty for never"
                  autofocus
                  class="every"
                  @keydown.esc.stop="editing = ''"
                />
                <v-btn type="submit">Keep</v-btn>
              </form>
              <button v-else class="link" :disabled="!mayWork" :title="whyNotWork" @click="edit(f)">
                {{ f.expectedEveryMs ? duration(f.expectedEveryMs) : 'nobody has said' }}
              </button>
            </td>
            <td>
              <label class="nowrap"
                ><input
                  type="checkbox"
                  :checked="f.fullListings.includes('resources')"
                  :disabled="!mayWork"
                  :title="whyNotWork"
                  @change="setListsAll(f, ($event.target as HTMLInputElement).checked)"
                />
                full listings</label
              >
            </td>
            <td class="n">{{ f.pending }}</td>
            <td>
              <b v-if="f.overdue" class="wrong">overdue</b>
              <template v-else>{{ f.expectedEveryMs ? 'in time' : 'not expected' }}</template>
            </td>
          </tr>
          <tr v-if="said(f).length">
            <td colspan="8" class="small quiet">
              <span v-for="s in said(f)" :key="s" class="said">{{ s }}</span>
            </td>
          </tr>
        </template>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
tr.first td {
  border-bottom: 0;
}
.said {
  margin-right: 8px;
}
.every {
  width: 220px;
}
.wrong {
  color: var(--disproven);
}
button:disabled {
  color: inherit;
  text-decoration: none;
  cursor: default;
}
</style>
