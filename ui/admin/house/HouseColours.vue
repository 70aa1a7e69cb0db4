<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { House } from '../../shared/types'
import SettingCell from '../parts/SettingCell.vue'
import { colourOfPicture, tintOf } from './colours'

/** The house's one colour, also from its logo, and its tint, which is made of it until somebody chooses another. */
const house = defineModel<House>({ required: true })
defineProps<{ errors: Record<string, string> }>()
const found = ref<string>()
watch(
  () => house.value.logo,
  async (logo) => {
    found.value = undefined
    if (!logo) return
    try {
      found.value = await colourOfPicture(`/api/pictures/${logo}`)
    } catch {
      found.value = undefined // a picture that does not load has no colour to offer
    }
  },
  { immediate: true },
)
const offered = computed(() => found.value && found.value !== house.value.accent.toUpperCase())
const tint = computed({
  get: () => house.value.tint || tintOf(house.value.accent),
  set: (v) => (house.value.tint = v),
})
</script>

<template>
  <SettingCell
    :label="$t('house.colour')"
    of="house-accent"
    :help="$t('house.headingsRulesHeaderRows')"
    :error="errors.accent"
  >
    <span class="flex items-center gap-3">
      <input id="house-accent" v-model="house.accent" type="color" class="entry h-[34px] w-[90px] p-1" />
      <button v-if="offered" type="button" class="link text-[13px]" @click="house.accent = found!">
        {{ $t('house.fromLogo', { colour: found! }) }}
      </button>
    </span>
  </SettingCell>
  <SettingCell
    :label="$t('house.colourShadedRows')"
    of="house-tint"
    :help="$t('house.paleSoWordsCanRead')"
    :error="errors.tint"
  >
    <span class="flex items-center gap-3">
      <input id="house-tint" v-model="tint" type="color" class="entry h-[34px] w-[90px] p-1" />
      <button v-if="house.tint" type="button" class="link text-[13px]" @click="house.tint = ''">
        {{ $t('house.tintOfColour') }}
      </button>
    </span>
  </SettingCell>
</template>
