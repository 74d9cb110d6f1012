<script setup lang="ts">
import { ref } from 'vue'
import type { PolicyView } from '@/api/types'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { useMay } from '@/people/useMay'
import { count } from '@/wording/format'
import TakeAway from '@/frame/TakeAway.vue'
import PolicyForm from './PolicyForm.vue'

/** Every policy with what it can come to. */
const { asAt, when, lookingBack } = useAsAt()
const { whyNotWork } = useMay()
const { data, problem, refresh } = useServerData('/api/policies', () => ({
  params: { query: when.value },
}))
// What was kept may be evaluated only after it was answered.
useEvents({ facts: () => void refresh() })
const editing = ref<{ fields: Record<string, string>; key?: string; edited?: string }>()

function open(p: PolicyView) {
  editing.value = {
    fields: { ...p.fields, key: p.ours ? p.key : `${p.key}-ours` },
    key: p.ours ? p.key : undefined,
    edited: p.ours ? p.edited : undefined,
  }
}

function saved() {
  editing.value = undefined
  void refresh()
}
</script>

<template>
  <div class="row-between">
    <p class="small quiet">
      What is promised, and what the promise can come to. Policies of a feed are changed where they
      come from; here a change of them can be tried, and kept as a policy of our own.
    </p>
    <v-btn :disabled="!!whyNotWork" :title="whyNotWork" @click="editing = { fields: {} }"
      >New policy</v-btn
    >
  </div>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <p v-if="data && !data.length">
    No policy is known{{ asAt ? ' as at this instant' : '' }}. Bring in policies.csv, or write one
    here.
  </p>
  <table v-if="data?.length" class="plain">
    <thead>
      <tr>
        <th>Policy</th>
        <th>Scope</th>
        <th class="n">In scope</th>
        <th class="n">Nearly</th>
        <th>What it can come to</th>
        <th></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="p in data" :key="p.key">
        <td>
          <b>{{ p.name }}</b><br /><span class="mono small quiet">{{ p.key }}</span
          ><br /><span class="small quiet">{{ p.feed }}</span>
        </td>
        <td class="scope">
          {{ p.scope }}
        </td>
        <td class="n">{{ p.inScope }}</td>
        <td class="n">{{ p.nearly }}</td>
        <td>
          <p v-for="s in p.promises" :key="s" :class="{ wrong: s.includes('too short') }">
            {{ s }}
          </p>
          <p v-if="p.cannot" class="wrong">
            {{ count(p.cannot, 'resource', 'resources') }} in scope can never keep the RPO on this
            schedule
          </p>
        </td>
        <td>
          <button class="link nowrap" :disabled="lookingBack" @click="open(p)">
            {{ p.ours ? 'Change' : 'Try a change' }}
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <TakeAway v-if="data?.length" name="policies" :rows="() => data ?? []" />
  <PolicyForm v-if="editing" :start="editing" @close="editing = undefined" @saved="saved" />
</template>

<style scoped>
p {
  margin: 0 0 2px;
}
.scope {
  max-width: 260px;
  overflow-wrap: anywhere;
}
.wrong {
  color: var(--disproven);
}
</style>
