'use client';

import { counted as inWords } from '@bold-ruler/core/problem';
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  LinearScale,
  Tooltip,
  type ChartConfiguration,
} from 'chart.js';
import { useEffect, useRef } from 'react';
import type { Bar, Distribution } from '@bold-ruler/core/table';
import { useTheme } from '@/ui/theme';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

const short = new Intl.NumberFormat('en', { notation: 'compact', maximumSignificantDigits: 4 });
const labelOf = ({ label, range }: Bar) => range?.map((end) => short.format(end)).join(' to ') ?? label;

/** A small plot of how rows are distributed: lying bars for names, upright ones for steps and months. */
export function DistributionPlot({
  distribution,
  names,
  label,
}: {
  distribution: Distribution;
  names: boolean;
  label: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { bars } = distribution;
  const theme = useTheme((state) => state.theme);
  useEffect(() => {
    const font = { family: 'Archivo Narrow', size: 11 };
    // A canvas knows no variables: its element carries the colours of the light it stands in.
    const { color: quiet, borderTopColor: hairline, outlineColor: ink } = getComputedStyle(canvas.current!);
    const ticks = { color: quiet, font };
    const counted = {
      beginAtZero: true,
      grid: { color: hairline, lineWidth: 0.5 },
      border: { display: false },
      ticks: { ...ticks, maxTicksLimit: 4 },
    };
    const named = {
      grid: { display: false },
      border: { color: ink },
      ticks: {
        ...ticks,
        autoSkip: !names,
        maxRotation: 0,
        callback: (_: unknown, i: number) => {
          const text = bars[i] ? labelOf(bars[i]) : '';
          return names && text.length > 18 ? `${text.slice(0, 17)}…` : names ? text : text.split(' to ')[0]!;
        },
      },
    };
    // A canvas does not wait for its fonts.
    let current = true;
    let chart: Chart | null = null;
    const draw = () => {
      if (current) chart = new Chart(canvas.current!, settings);
    };
    const settings: ChartConfiguration<'bar'> = {
      type: 'bar',
      data: {
        labels: bars.map(labelOf),
        datasets: [
          {
            data: bars.map(({ rows }) => rows),
            backgroundColor: '#8d979f',
            hoverBackgroundColor: ink,
            categoryPercentage: 1,
            barPercentage: names ? 0.72 : 0.94,
          },
        ],
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        indexAxis: names ? 'y' : 'x',
        scales: names ? { x: counted, y: named } : { x: named, y: counted },
        plugins: {
          tooltip: {
            displayColors: false,
            titleFont: font,
            bodyFont: font,
            callbacks: { label: ({ raw }) => inWords(raw as number, 'row') },
          },
        },
      },
    };
    void document.fonts.load('11px "Archivo Narrow"').then(draw, draw);
    return () => {
      current = false;
      chart?.destroy();
    };
  }, [bars, names, theme]);
  return (
    <div style={{ height: names ? Math.max(64, bars.length * 19 + 28) : 132 }}>
      <canvas ref={canvas} role="img" aria-label={label} className="border-hairline text-quiet outline-ink" />
    </div>
  );
}
