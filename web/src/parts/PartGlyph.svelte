<script lang="ts">
  interface Props {
    /** class of the part */
    kind: string;
  }
  let { kind }: Props = $props();
  /** Drawn by us as a part of each class looks from the side, 18 wide and 30 high about its middle. */
  const OUTLINE: Record<string, string> = {
    T: "M-8 -13 L8 -8 V8 L-8 13Z M-8 -7 H8 M-8 0 H8 M-8 7 H8",
    G: "M-7 -11 H7 V11 H-7Z M-7 -5 H7 M-7 5 H7",
    B: "M-7 -11 H7 V11 H-7Z M-7 -11 L7 11 M7 -11 L-7 11",
    S: "M-3 -13 V13 M0 -13 V13 M3 -13 V13",
    W: "M-2 -12 H2 V12 H-2Z",
    L: "M-8 -6 H0 V-13 H6 V13 H0 V6 H-8Z",
    E: "M-4 -13 H4 V13 H-4Z M-4 -3 L4 0 L-4 3",
    X: "M-9 -3 H9 V3 H-9Z",
    F: "M-8 -6 H-2 V6 H-8Z M-2 -2 H9 V2 H-2Z",
    H: "M-9 -14 H9 V14 H-9Z M-5 -10 H5 V10 H-5Z",
    R: "M-5 -14 Q7 0 -5 14Z",
    P: "M-2 -13 H2 V13 H-2Z M-2 -8 H2 M-2 0 H2 M-2 8 H2",
    A: "M-9 -4 H9 V4 H-9Z M-5 -4 V4 M5 -4 V4",
    N: "M-6 -9 H6 M-6 -3 H6 M-6 3 H6 M-6 9 H6",
    J: "M-6 -8 H6 V8 H-6Z M-6 0 H6",
    M: "M-6 9 L-3 -9 L0 9 L3 -9 L6 9",
    Q: "M-5 -11 H5 V11 H-5Z M-5 -7 H5 M-5 -3 H5 M-5 1 H5 M-5 5 H5",
    V: "M-5 -8 H5 V8 H-5Z M0 -8 V-14",
    O: "M0 -12 Q9 2 0 11 Q-9 2 0 -12Z",
    D: "M0 -14 V14",
  };
</script>

<path d={OUTLINE[kind] ?? OUTLINE["H"]} stroke-linejoin="round" />
