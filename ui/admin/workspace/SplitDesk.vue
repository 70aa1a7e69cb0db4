<template>
  <div class="grid min-h-0 grow lg:grid-cols-[minmax(0,9fr)_minmax(0,11fr)]">
    <section
      class="min-w-0 border-r border-rule bg-sheet lg:max-h-[calc(100vh-196px)] lg:overflow-y-auto"
      aria-label="Script"
    >
      <slot name="script" />
    </section>
    <section class="min-w-0 bg-bed lg:max-h-[calc(100vh-196px)] lg:overflow-y-auto" aria-label="Proof">
      <slot name="proof" />
    </section>
  </div>
</template>
