'use client';

import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';
import { useEffect, useRef } from 'react';
import type { Distribution } from '@bold-ruler/core/table';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

/** A small plot of how rows are distributed: lying bars for names, upright ones for steps and months. */
export function Plot({ distribution, names, label }: { distribution: Distribution; names: boolean; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { bars } = distribution;
  useEffect(() => {
    const font = { family: 'Archivo Narrow', size: 11 };
    const ticks = { color: '#56636e', font };
    const counted = {
      beginAtZero: true,
      grid: { color: '#c9ccc6', lineWidth: 0.5 },
      border: { display: false },
      ticks: { ...ticks, maxTicksLimit: 4 },
    };
    const named = {
      grid: { display: false },
      border: { color: '#16202b' },
      ticks: {
        ...ticks,
        autoSkip: !names,
        maxRotation: 0,
        callback: (_: unknown, i: number) => {
          const text = bars[i]?.label ?? '';
          return names && text.length > 18 ? `${text.slice(0, 17)}…` : names ? text : text.split(' to ')[0]!;
        },
      },
    };
    const chart = new Chart(canvas.current!, {
      type: 'bar',
      data: {
        labels: bars.map((bar) => bar.label),
        datasets: [
          {
            data: bars.map(({ rows }) => rows),
            backgroundColor: '#8d979f',
            hoverBackgroundColor: '#16202b',
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
            callbacks: { label: ({ raw }) => `${(raw as number).toLocaleString('en')} rows` },
          },
        },
      },
    });
    return () => chart.destroy();
  }, [bars, names]);
  return (
    <div style={{ height: names ? Math.max(64, bars.length * 19 + 28) : 132 }}>
      <canvas ref={canvas} role="img" aria-label={label} />
    </div>
  );
}
