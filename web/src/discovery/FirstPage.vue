<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answerOf, api } from '@/api/client'
import type { StoreView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useMay } from '@/people/useMay'
import { useSession } from '@/people/session'
import ConnectionForm from '@/stores/ConnectionForm.vue'
import DemoWalk from './DemoWalk.vue'
import DiscoverySheet from './DiscoverySheet.vue'

/** What there is to do first, where nothing is known yet. */
const emit = defineEmits<{ followed: [] }>()
const { whyNotWork } = useMay()
const session = useSession()
const router = useRouter()
const { attempt, busy, problem } = useAttempt()

const REACHED = [
  { value: 'folder', title: 'a folder or mount of this computer' },
  { value: 'object-store', title: 'an object store (S3 API)' },
  { value: 'sftp', title: 'a host with SFTP' },
]
const name = ref('')
const reached = ref('folder')
const path = ref('')
const made = ref('')
const connecting = ref<StoreView>()
const looking = ref(false)
const mayConnect = computed(() => session.person?.role === 'administrator')
const ready = computed(
  () => !!name.value.trim() && (reached.value !== 'folder' || !!path.value.trim()),
)
const why = computed(
  () =>
    whyNotWork.value ||
    (reached.value !== 'folder' && !mayConnect.value
      ? 'Administrators say how a store is reached by a wire.'
      : ready.value
        ? ''
        : 'Name the store and say where it is first'),
)

const begin = () =>
  attempt(async () => {
    const folder = reached.value === 'folder'
    const answer = await answerOf(
      api.POST('/api/stores', {
        body: {
          name: name.value,
          medium: folder ? 'disk' : reached.value === 'sftp' ? 'disk' : 'object',
          path: folder ? path.value : undefined,
        },
      }),
    )
    made.value = answer.store
    if (folder) {
      looking.value = true
      return
    }
    const stores = await answerOf(api.GET('/api/stores'))
    const own = stores.find((s) => s.store === answer.store)
    connecting.value = own && {
      ...own,
      reached: reached.value === 'sftp' ? 'sftp' : 'object-store',
    }
  })

function connected() {
  connecting.value = undefined
  looking.value = true
}
</script>

<template>
  <div class="first">
    <h1>Where are your backups?</h1>
    <p v-if="!looking" class="quiet">
      Nothing is known yet. Three ways lead to the first verdicts.
    </p>
    <DiscoverySheet
      v-if="looking"
      :store="made"
      :name="name"
      @close="looking = false"
      @followed="emit('followed')"
    />
    <template v-else>
      <section>
        <h2>Look into a store</h2>
        <p class="quiet small">
          Nobody has to export anything: names say whose backups they are and of when. Only names
          and the beginnings of a few files are read, and nothing is ever written.
        </p>
        <form class="row" @submit.prevent="begin">
          <v-text-field v-model="name" label="Call it" maxlength="100" class="short" />
          <v-select v-model="reached" :items="REACHED" label="It is" class="kind" />
          <v-text-field
            v-if="reached === 'folder'"
            v-model="path"
            label="Path"
            placeholder="/mnt/backups"
            class="mono path"
          />
          <v-btn
            type="submit"
            color="primary"
            variant="flat"
            :loading="busy"
            :disabled="!!why"
            :title="why || undefined"
            >Look into it</v-btn
          >
        </form>
        <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
      </section>
      <section>
        <h2>Drop a report</h2>
        <p class="quiet small">
          What your backups write anyway, as it is: CSV, JSON, XLSX, or a list of files as
          <span class="mono">find</span> writes it. How it is read is guessed, and shown.
        </p>
        <v-btn @click="router.push('/feeds')">Go to Feeds</v-btn>
      </section>
      <section>
        <h2>Walk through the demo</h2>
        <p class="quiet small">
          An invented ferry line with everything that can be wrong, beside your own installation:
          nothing of it mixes with what is yours.
        </p>
        <DemoWalk />
      </section>
    </template>
    <ConnectionForm
      v-if="connecting"
      :store="connecting"
      @close="connecting = undefined"
      @connected="connected"
    />
  </div>
</template>

<style scoped>
h1 {
  font-size: 22px;
  margin-bottom: 10px;
}
section {
  padding: 10px 0 14px;
  border-top: 1px solid var(--rule);
}
section p {
  margin: 2px 0 10px;
}
.row {
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
}
.short {
  max-width: 220px;
}
.kind {
  max-width: 320px;
}
.path {
  max-width: 380px;
}
.bad {
  color: var(--disproven);
}
</style>
