<script setup lang="ts">
import { onMounted, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useAttempt } from './api/useAttempt'
import ClockBand from './frame/ClockBand.vue'
import DemoGuide from './frame/DemoGuide.vue'
import AppHeader from './frame/AppHeader.vue'
import { useSession } from './people/session'

const session = useSession()
const route = useRoute()
const router = useRouter()
const { attempt, problem } = useAttempt()
const begin = () => attempt(session.load)

onMounted(begin)

watch(
  [() => session.session, () => route.name],
  () => {
    if (!session.session || !route.name) return
    if (route.name === 'set-password') return
    if (!session.person && route.name !== 'sign-in') {
      void router.replace({ name: 'sign-in', query: { to: route.fullPath } })
    } else if (session.person && route.name === 'sign-in') {
      const to = route.query.to
      void router.replace(typeof to === 'string' && to.startsWith('/') ? to : '/board')
    }
  },
  { immediate: true },
)
</script>

<template>
  <v-app>
    <p v-if="problem" class="starting" role="alert">
      {{ problem }}
      <v-btn @click="begin">Try again</v-btn>
    </p>
    <p v-else-if="!session.session" class="starting quiet">Loading …</p>
    <router-view v-else-if="route.name === 'set-password'" />
    <template v-else-if="!session.person">
      <router-view v-if="route.name === 'sign-in'" />
    </template>
    <div v-else class="frame">
      <AppHeader />
      <ClockBand v-if="session.session.demoPeople.length" />
      <DemoGuide v-if="session.session.demoPeople.length" />
      <p v-for="warning in session.session.warnings" :key="warning" class="own-file" role="alert">
        {{ warning }}
      </p>
      <main class="workspace"><router-view /></main>
    </div>
  </v-app>
</template>

<style scoped>
.starting {
  padding: 40px;
}
.frame {
  height: 100dvh;
  display: flex;
  flex-direction: column;
}
.own-file {
  margin: 0;
  padding: 8px 24px;
  background: rgb(var(--v-theme-error));
  color: rgb(var(--v-theme-on-error));
}
.workspace {
  flex: 1;
  min-height: 0;
}
</style>
