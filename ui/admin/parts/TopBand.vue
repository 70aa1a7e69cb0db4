<script setup lang="ts">
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import mark from '../../shared/mark.svg'
import { api } from '../api'
import { live } from '../changes'
import { loadSession, session, somewhere } from '../session'
import { roleWords } from '../people/people'
import { t } from '../words'

const route = useRoute()
const router = useRouter()
const places = computed(() =>
  (
    [
      { to: '/', name: t('parts.desk'), needs: 'look' },
      { to: '/intakes', name: t('parts.intakes'), needs: 'look' },
      { to: '/register', name: t('parts.register'), needs: 'records' },
      { to: '/post', name: t('parts.post'), needs: 'records' },
      { to: '/cabinet', name: t('parts.cabinet'), needs: 'records' },
      { to: '/house', name: t('parts.house'), needs: 'house' },
    ] as const
  ).filter((p) => p.to === '/' || p.to === '/intakes' || somewhere(p.needs)),
)
const here = (to: string) => (to === '/' ? route.path === '/' : route.path.startsWith(to))
const present = computed(() => places.value.find((p) => here(p.to))?.name ?? t('parts.places'))

async function signOut() {
  await api.DELETE('/api/session')
  await router.push('/sign-in')
  await loadSession()
}
</script>

<template>
  <header class="flex min-h-[46px] flex-wrap items-center gap-x-5 bg-ink px-3 text-white sm:px-6">
    <RouterLink to="/" class="flex items-center gap-3 py-2">
      <img :src="mark" alt="" width="26" height="26" />
      <span class="font-title text-[17px] font-bold">{{ $t('parts.amberSeal') }}</span>
    </RouterLink>
    <span class="hidden text-[#aebbb8] md:inline">{{ session?.house }}</span>
    <span
      v-if="!live"
      role="status"
      class="font-semibold text-[#f4c27a]"
      :title="$t('parts.whatChangesHouseNotSeen')"
      >{{ $t('parts.notConnected') }}</span
    >
    <!-- On a phone, or far enlarged, the places fold away, or they would fill the window. -->
    <Disclosure v-slot="{ close }" as="div" class="ml-auto sm:hidden">
      <DisclosureButton class="px-2 py-2 font-semibold"
        ><span class="sr-only">{{ $t('parts.placesNow') + ' ' }}</span
        >{{ present }} <span aria-hidden="true">▾</span></DisclosureButton
      >
      <DisclosurePanel class="absolute inset-x-0 z-30 border-t border-[#3a4a4f] bg-ink">
        <nav :aria-label="$t('parts.places')" class="flex flex-col px-3 py-2">
          <RouterLink
            v-for="p in places"
            :key="p.to"
            :to="p.to"
            class="py-2"
            :class="here(p.to) ? 'font-semibold text-white' : 'text-[#cbd6d3]'"
            :aria-current="here(p.to) ? 'page' : undefined"
            @click="close()"
            >{{ p.name }}</RouterLink
          >
          <RouterLink class="py-2 text-[#cbd6d3]" to="/account" @click="close()">{{ session?.name }}</RouterLink>
          <button class="py-2 text-left text-[#cbd6d3]" @click="signOut">{{ $t('parts.signOut') }}</button>
        </nav>
      </DisclosurePanel>
    </Disclosure>
    <nav :aria-label="$t('parts.places')" class="ml-auto hidden flex-wrap gap-x-1 self-stretch sm:flex">
      <RouterLink
        v-for="p in places"
        :key="p.to"
        :to="p.to"
        class="flex items-center border-b-[3px] px-2 py-2"
        :class="
          here(p.to)
            ? 'border-amber font-semibold text-white forced-colors:border-[Highlight]'
            : 'border-transparent text-[#cbd6d3] hover:text-white forced-colors:border-[Canvas]'
        "
        :aria-current="here(p.to) ? 'page' : undefined"
        >{{ p.name }}</RouterLink
      >
    </nav>
    <span class="hidden items-center gap-x-4 sm:flex">
      <RouterLink
        to="/account"
        class="py-2 text-[#cbd6d3] hover:text-white"
        :title="$t('parts.signedAs', { email: session?.email, role: roleWords(session?.role) })"
        >{{ session?.name }}</RouterLink
      >
      <button class="py-2 text-[#cbd6d3] hover:text-white" @click="signOut">{{ $t('parts.signOut') }}</button>
    </span>
  </header>
</template>
