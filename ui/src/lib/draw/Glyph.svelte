<script lang="ts">
  // A plain mark for each pattern, one colour, readable at 16 px.
  let { pattern, x = 0, y = 0 }: { pattern: string; x?: number; y?: number } = $props()
  const marks: Record<string, string> = {
    squat: 'M3 4v9h10V4M3 8h10',
    lunge: 'M8 3 3 13M8 3l5 10',
    lateral: 'M2 13 8 4M8 4v9h5',
    hinge: 'M4 14V4h10',
    bridge: 'M2 13l4-7h5l3 7',
    'push-level': 'M2 8h10M9 5l3 3-3 3M14 3v10',
    'push-overhead': 'M8 14V5M5 8l3-3 3 3M3 2h10',
    pull: 'M14 8H4M7 5 4 8l3 3M2 3v10',
    'trunk-brace': 'M8 2v12M2 8h12',
    'trunk-turn': 'M13 8a5 5 0 1 1-2-4M11 1v3H8',
    carry: 'M2 5h12M5 5v8M11 5v8',
    'whole-body': 'M8 2v12M3 5l5-3 5 3M3 11l5 3 5-3',
    mobility: 'M2 10c2-6 4-6 6 0s4 6 6 0',
  }
</script>

<path class="glyph" transform={`translate(${x} ${y})`} d={marks[pattern] ?? marks.mobility} />
