<script setup lang="ts">
import { computed, onScopeDispose } from 'vue'
import { useRouter } from 'vue-router'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { count } from '@/wording/format'

/** How many alerts ring for whoever is signed in; it leads to them. Not while looking back. */
const router = useRouter()
const { lookingBack } = useAsAt()
const { data, refresh } = useServerData('/api/alerts')
const OFTEN = 10_000
const timer = setInterval(() => {
  if (!document.hidden) void refresh()
}, OFTEN)
onScopeDispose(() => clearInterval(timer))

const ringing = computed(() => data.value?.bell ?? 0)
const words = computed(() =>
  ringing.value
    ? `${count(ringing.value, 'alert', 'alerts')} nobody has acknowledged`
    : 'Nothing rings',
)
</script>

<template>
  <button
    v-if="!lookingBack"
    class="bell"
    :class="{ ringing }"
    :aria-label="words"
    :title="words"
    @click="router.push({ name: 'alerts' })"
  >
    <svg viewBox="0 0 24 24" width="18" height="18" aria-hidden="true">
      <path
        d="M5 17h14M7 17v-6a5 5 0 0 1 10 0v6M10.5 20h3"
        fill="none"
        stroke="currentColor"
        stroke-width="1.8"
        stroke-linecap="square"
      />
    </svg>
    <span v-if="ringing" class="mono">{{ ringing }}</span>
  </button>
</template>

<style scoped>
.bell {
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 0 6px;
  color: var(--quiet);
  background: none;
  border: 0;
  font: inherit;
  cursor: pointer;
}
.bell.ringing {
  color: var(--disproven);
  font-weight: 600;
}
</style>
