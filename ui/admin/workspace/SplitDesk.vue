<script setup lang="ts">
/** A script beside its proof, each scrolled by itself; `tall` where neither stations nor findings take room. */
defineProps<{ tall?: boolean }>()
</script>

<template>
  <div class="grid min-h-0 grow lg:grid-cols-[minmax(0,9fr)_minmax(0,11fr)]">
    <section
      class="relative min-w-0 border-r border-rule bg-sheet lg:overflow-y-auto"
      :class="tall ? 'lg:max-h-[calc(100vh-134px)]' : 'lg:max-h-[calc(100vh-196px)]'"
      :aria-label="$t('workspace.script')"
    >
      <slot name="script" />
    </section>
    <section
      class="relative min-w-0 bg-bed lg:overflow-y-auto"
      :class="tall ? 'lg:max-h-[calc(100vh-134px)]' : 'lg:max-h-[calc(100vh-196px)]'"
      :aria-label="$t('workspace.proof')"
    >
      <slot name="proof" />
    </section>
  </div>
</template>
