<script setup lang="ts">
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useTheme } from 'vuetify'
import BellButton from '@/alerts/BellButton.vue'
import OwnCalendarForm from '@/people/OwnCalendarForm.vue'
import OwnPasswordForm from '@/people/OwnPasswordForm.vue'
import OwnZoneForm from '@/people/OwnZoneForm.vue'
import { useSession } from '@/people/session'
import { sectionOf, sections } from '@/router'
import { rememberTheme } from '@/theme'
import { zone } from '@/wording/zone'
import AsAtControl from './AsAtControl.vue'
import CommandField from './CommandField.vue'
import KeyList from './KeyList.vue'
import { useAsAt } from './useAsAt'
import { prevented, useKeys } from './useKeys'

const session = useSession()
const route = useRoute()
const router = useRouter()
const theme = useTheme()
const { lookingBack, hindsight, query } = useAsAt()
const keysShown = ref(false)
const finding = ref(false)
const changing = ref(false)
const calendar = ref(false)
const zoning = ref(false)

useKeys({
  '?': () => {
    keysShown.value = true
  },
  'Ctrl+k': prevented(() => {
    finding.value = true
  }),
})

function toggleTheme() {
  const next = theme.global.name.value === 'dark' ? 'light' : 'dark'
  theme.change(next)
  rememberTheme(next)
}

async function signOut() {
  await session.signOut()
  await router.push('/sign-in')
}
</script>

<template>
  <header :class="{ back: lookingBack }">
    <span class="mark">
      <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
        <path d="M3 20h4v-4h4v-4h4V8h4V4" fill="none" stroke="var(--accent)" stroke-width="2.4" />
      </svg>
      Hard Proof
    </span>
    <nav aria-label="Sections">
      <router-link
        v-for="s in sections"
        :key="s.name"
        :to="{ name: s.name, query }"
        :class="{ here: sectionOf(route.path) === s }"
        >{{ s.title }}</router-link
      >
    </nav>
    <span class="space" />
    <button class="find" @click="finding = true">Find <kbd class="mono">Ctrl K</kbd></button>
    <AsAtControl />
    <BellButton />
    <v-menu>
      <template #activator="{ props }">
        <button v-bind="props" class="person">{{ session.person?.fullName }}</button>
      </template>
      <v-list density="compact" border class="menu">
        <v-list-item :title="session.person?.role" subtitle="role" />
        <v-list-item
          :title="theme.global.name.value === 'dark' ? 'Light paper' : 'Dark paper'"
          @click="toggleTheme"
        />
        <v-list-item
          title="Alerts and watches"
          @click="router.push({ name: 'alerts', query: { tab: 'watches' } })"
        />
        <v-list-item title="Engines and sandboxes" @click="router.push({ name: 'engines' })" />
        <v-list-item
          v-if="session.person?.role === 'administrator'"
          title="People"
          @click="router.push({ name: 'people' })"
        />
        <v-list-item :title="`Times in ${zone()}`" @click="zoning = true" />
        <v-list-item title="Change password" @click="changing = true" />
        <v-list-item title="Calendar address" @click="calendar = true" />
        <v-list-item title="Keys" @click="keysShown = true" />
        <v-list-item title="Sign out" @click="signOut" />
      </v-list>
    </v-menu>
    <KeyList v-model="keysShown" />
    <CommandField v-if="finding" @close="finding = false" />
    <OwnCalendarForm v-if="calendar" @close="calendar = false" />
    <OwnZoneForm v-if="zoning" @close="zoning = false" />
    <OwnPasswordForm v-if="changing" @close="changing = false" />
  </header>
  <p v-if="lookingBack" class="band" role="status">
    Looking back:
    {{
      hindsight
        ? 'in hindsight, by all that has become known of it since.'
        : 'by what was known then.'
    }}
    Nothing can be changed from here.
  </p>
</template>

<style scoped>
header {
  display: flex;
  align-items: stretch;
  gap: 14px;
  height: 46px;
  padding: 0 20px;
  border-bottom: 1px solid var(--rule-strong);
  flex: none;
}
header.back {
  border-bottom: 4px solid var(--amber);
}
/* Narrow: the sections go to a line of their own. */
@media (max-width: 900px) {
  header {
    height: auto;
    flex-wrap: wrap;
    row-gap: 0;
    padding-top: 4px;
  }
  nav {
    order: 1;
    width: 100%;
    margin-left: -11px;
    overflow-x: auto;
  }
  nav a {
    height: 38px;
  }
  .mark,
  .person {
    white-space: nowrap;
  }
}
.mark {
  display: flex;
  align-items: center;
  gap: 10px;
  font-weight: 600;
  font-size: 15px;
}
nav {
  display: flex;
  margin-left: 6px;
}
nav a {
  display: flex;
  align-items: center;
  padding: 0 11px;
  color: inherit;
  text-decoration: none;
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
}
nav a.here {
  font-weight: 600;
  border-bottom-color: var(--accent);
}
.space {
  flex: 1;
}
.find {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 0 4px;
  font: inherit;
  color: var(--quiet);
  background: none;
  border: 0;
  cursor: pointer;
}
.find kbd {
  padding: 0 4px;
  font-size: 11px;
  border: 1px solid var(--rule);
}
.person {
  font: inherit;
  font-weight: 600;
  color: inherit;
  background: none;
  border: 0;
  cursor: pointer;
}
.menu {
  background: var(--sheet);
}
.band {
  background: var(--amber);
  margin: 0;
  padding: 3px 20px;
  font-size: 13px;
  color: var(--ink);
  flex: none;
}
</style>
