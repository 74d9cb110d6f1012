<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { FetchDraft, FetchView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import FormDialog from '@/frame/FormDialog.vue'
import { typedDuration } from '@/wording/format'

/** Where a feed is fetched, how it is opened there and how often. */
const props = defineProps<{ start?: FetchView; feeds: string[] }>()
const emit = defineEmits<{ close: []; kept: [] }>()

const WAYS = [
  { value: 'nothing', title: 'nothing: it is open' },
  { value: 'token', title: 'a token (Bearer)' },
  { value: 'password', title: 'a user and a password (Basic)' },
]
const feed = ref(props.start?.feed ?? '')
const form = ref<FetchDraft>({
  address: props.start?.address ?? 'https://',
  way: props.start?.way ?? 'nothing',
  user: props.start?.user,
  every: props.start ? typedDuration(props.start.everyMs) : '24h',
  recipe: props.start?.recipe,
  file: props.start?.file,
})
const { data: recipes } = useServerData('/api/recipes')
const names = computed(() => [
  { value: undefined, title: 'that of the feed’s name, if there is one' },
  ...(recipes.value ?? []).map((r) => ({ value: r.name, title: r.name })),
])
const { attempt, busy, problem } = useAttempt()

const keep = () =>
  attempt(async () => {
    await answerOf(
      api.PUT('/api/feed-fetches/{feed}', {
        params: { path: { feed: feed.value.trim() } },
        body: { ...form.value, secret: form.value.secret || undefined },
      }),
    )
    emit('kept')
  })
</script>

<template>
  <FormDialog
    :title="start ? `How ${start.feed} is fetched` : 'Have a feed fetched'"
    action="Keep"
    :ready="!!feed?.trim() && form.address.length > 8 && !!form.every.trim()"
    :busy="busy"
    :problem="problem"
    hint="Name the feed, its address and how often it is fetched"
    @close="emit('close')"
    @submit="keep"
  >
    <v-combobox v-if="!start" v-model="feed" :items="feeds" label="Feed" autofocus />
    <v-text-field
      v-model="form.address"
      label="Address (https; its host is allowed under Engines and sandboxes)"
    />
    <div class="pair">
      <v-select v-model="form.way" :items="WAYS" label="What opens it" />
      <v-text-field v-model="form.every" label="Fetched every, such as 6h" />
    </div>
    <div v-if="form.way !== 'nothing'" class="pair">
      <v-text-field v-if="form.way === 'password'" v-model="form.user" label="User" />
      <v-text-field
        v-model="form.secret"
        type="password"
        autocomplete="new-password"
        :label="form.way === 'token' ? 'Token' : 'Password'"
        :placeholder="start?.secret ? 'as it is' : undefined"
        persistent-placeholder
      />
    </div>
    <div class="pair">
      <v-select v-model="form.recipe" :items="names" label="Read by the recipe" />
      <v-text-field
        v-model="form.file"
        label="Called (empty: by the address)"
        placeholder="report.csv"
      />
    </div>
    <template #below>
      <p class="small quiet">
        What opens it is sealed in the database and never shown again. What has not changed since is
        not sent again. A file is taken whole or not at all.
      </p>
    </template>
  </FormDialog>
</template>
