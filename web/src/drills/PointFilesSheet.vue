<script setup lang="ts">
import { computed, onScopeDispose, ref, watch } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { PointFiles } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { bytes, count } from '@/wording/format'

/** What a point holds, looked at on its store without restoring it; what is picked is then restored. */
const props = defineProps<{ resource: string; point: string; store?: string; mayDrill: boolean }>()
const emit = defineEmits<{ close: []; restore: [paths: string[], store: string] }>()

const find = ref<string | null>('') // null once it was cleared
const listed = ref<PointFiles>()
const { latest, busy: loading, problem } = useAttempt()
const picked = ref<Set<string>>(new Set())
const SHOWN = 400

/** Each look reads the archive, so it waits until nothing was typed for a moment. */
const TYPING_MS = 300
let typing: ReturnType<typeof setTimeout> | undefined

const look = () =>
  latest(
    () =>
      answerOf(
        api.GET('/api/point-files', {
          params: {
            query: {
              resource: props.resource,
              point: props.point,
              store: props.store,
              find: find.value?.trim() || undefined,
            },
          },
        }),
      ),
    (answer) => (listed.value = answer ?? listed.value),
  )

void look()
watch(find, () => {
  clearTimeout(typing)
  typing = setTimeout(() => void look(), TYPING_MS)
})
onScopeDispose(() => clearTimeout(typing))

function pick(path: string) {
  const next = new Set(picked.value)
  if (!next.delete(path)) next.add(path)
  picked.value = next
}

const more = computed(() => (listed.value ? listed.value.total - SHOWN : 0))
</script>

<template>
  <v-dialog :model-value="true" max-width="860" @update:model-value="emit('close')">
    <v-card title="What this point holds">
      <v-card-text>
        <p class="small quiet">
          <span class="mono">{{ point }}</span><template v-if="listed">
            on {{ listed.storeName }}</template
          >, read on the store; nothing is restored by looking.
        </p>
        <v-text-field v-model="find" label="Find a path" clearable :loading="loading" />
        <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
        <v-skeleton-loader v-else-if="!listed" type="paragraph" color="background" />
        <template v-else>
          <p class="small">
            {{ count(listed.total, 'file', 'files') }}{{ find ? ' match' : '' }},
            {{ picked.size }} picked
          </p>
          <table class="plain small">
            <tbody>
              <tr v-for="f in listed.files.slice(0, SHOWN)" :key="f.path">
                <td>
                  <label>
                    <input
                      type="checkbox"
                      :checked="picked.has(f.path)"
                      :disabled="f.type !== 'file'"
                      @change="pick(f.path)"
                    />
                    <span class="mono path">{{ f.path }}</span>
                  </label>
                </td>
                <td class="n mono nowrap">
                  {{
                    f.type === 'link' ? 'link' : f.sizeBytes === undefined ? '' : bytes(f.sizeBytes)
                  }}
                </td>
                <td class="mono nowrap quiet">
                  <Moment v-if="f.modified" :at="f.modified" /><template v-else></template>
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="more > 0" class="small quiet">{{ more }} more; find to narrow them.</p>
        </template>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Close</v-btn>
        <v-btn
          color="primary"
          variant="flat"
          :disabled="!mayDrill || !picked.size"
          @click="emit('restore', [...picked], listed?.store ?? '')"
          >Restore what is picked</v-btn
        >
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
label {
  display: flex;
  gap: 8px;
  align-items: baseline;
  cursor: pointer;
}
.path {
  overflow-wrap: anywhere;
}
.bad {
  color: var(--disproven);
}
p {
  margin: 4px 0;
}
</style>
