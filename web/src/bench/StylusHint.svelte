<!-- where the stylus goes: square to the flank, at the outer end of the tooth -->
<svg viewBox="0 0 360 150" class="w-full max-w-md" fill="none" stroke="currentColor" aria-hidden="true">
  <path d="M10 132C90 128 250 128 350 132" stroke-width="2" />
  <path d="M120 130 146 48C150 36 190 36 194 48L220 130" stroke-width="2.5" class="fill-base-200" />
  <path d="M244 130 268 56C272 46 306 46 310 56L334 130" stroke-width="1.5" opacity=".5" />
  <path d="M132 92 38 62" stroke-width="5" />
  <path d="M40 62 22 56" stroke-width="12" />
  <path d="m132 92-4.6 14-14-4.4" stroke-width="1.5" />
  <circle cx="132" cy="92" r="5" class="fill-base-100" stroke-width="1.5" />
  <g fill="currentColor" stroke="none" font-size="14">
    <text x="10" y="34">square to the flank</text>
    <text x="204" y="34">at the heel, the outer end</text>
    <text x="88" y="124" font-size="13">90°</text>
  </g>
</svg>
