<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { may } from '../session'
import { t } from '../words'

/** The head of the house's pages: who we are, who works here, and what we use outside. */
const route = useRoute()
const pages = computed(() =>
  (
    [
      { to: '/house', words: t('house.whoWe'), needs: 'house' },
      { to: '/house/people', words: t('house.people'), needs: 'people' },
      { to: '/house/mail', words: t('outside.mail'), needs: 'house' },
      { to: '/house/destinations', words: t('outside.destinations'), needs: 'house' },
    ] as const
  ).filter((p) => may(p.needs)),
)
</script>

<template>
  <div class="flex min-h-[62px] flex-wrap items-center gap-x-6 gap-y-2 px-3 py-3 sm:px-6">
    <h1 class="text-[26px] leading-none">{{ $t('house.house') }}</h1>
    <nav :aria-label="$t('house.house2')" class="flex flex-wrap gap-x-5">
      <RouterLink
        v-for="p in pages"
        :key="p.to"
        :to="p.to"
        class="min-h-[24px]"
        :class="
          route.path === p.to ? 'font-semibold underline decoration-2 underline-offset-4' : 'text-soft hover:text-ink'
        "
        :aria-current="route.path === p.to ? 'page' : undefined"
        >{{ p.words }}</RouterLink
      >
    </nav>
    <slot name="state" />
    <div class="ml-auto flex flex-wrap gap-3"><slot /></div>
  </div>
</template>
