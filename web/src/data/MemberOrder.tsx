'use client';

import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';

interface Props {
  readonly tableId: string;
  readonly column: string;
  /** In their order; null where there are too many to be put in order by hand. */
  readonly members: readonly string[] | null;
  readonly others: readonly string[];
}

/** The order in which a column's members stand everywhere: natural, by hand, or by another column. */
export function MemberOrder({ tableId, column, members, others }: Props) {
  const report = useReport((state) => state.report);
  const said = report!.tables.find(({ id }) => id === tableId)?.columns?.find(({ name }) => name === column);
  const how = said?.order ? 'by hand' : said?.orderBy ? `by ${said.orderBy}` : 'natural';
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 3 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const set = (order: readonly string[] | null, orderBy: string | null) =>
    void edit({
      edit: 'order-members',
      table: tableId,
      column,
      ...(order ? { order } : {}),
      ...(orderBy === null ? {} : { orderBy }),
    });
  return (
    <div className="mt-4">
      <div className="mb-1.5 flex items-center gap-2">
        <h3 className="grow text-xs text-quiet">Order, used everywhere: {how}</h3>
        {how !== 'natural' && (
          <Button small look="bare" onClick={() => set(null, null)}>
            Natural order
          </Button>
        )}
      </div>
      <select
        aria-label={`Order ${column} by another column`}
        className={INPUT}
        value={said?.orderBy ?? ''}
        onChange={(event) => set(null, event.target.value === '' ? null : event.target.value)}
      >
        <option value="">{said?.order ? 'by hand' : 'not by another column'}</option>
        {others.map((name) => (
          <option key={name} value={name}>
            by the lowest {name}
          </option>
        ))}
      </select>
      {members === null ? (
        <p className="mt-2 text-[13px] text-quiet">There are too many members to put them in order by hand.</p>
      ) : (
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragEnd={({ active, over }) => {
            if (!over || active.id === over.id) return;
            const moved = arrayMove([...members], members.indexOf(String(active.id)), members.indexOf(String(over.id)));
            set(moved, null);
          }}
        >
          <SortableContext items={[...members]} strategy={verticalListSortingStrategy}>
            <ol
              aria-label={`Members of ${column} in order`}
              className="mt-2 max-h-64 overflow-y-auto border border-hairline"
            >
              {members.map((member) => (
                <Member key={member} member={member} />
              ))}
            </ol>
          </SortableContext>
        </DndContext>
      )}
    </div>
  );
}

function Member({ member }: { member: string }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: member });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={`flex items-center gap-1 border-b border-hairline bg-paper py-0.5 pr-2 text-[13px] last:border-b-0 ${isDragging ? 'relative z-10 bg-boxwood-light' : ''}`}
    >
      <button
        type="button"
        aria-label={`Move ${member}`}
        className="cursor-grab px-1 py-1 text-quiet hover:text-ink"
        {...attributes}
        {...listeners}
      >
        <GripVertical aria-hidden size={14} />
      </button>
      <span className="truncate">{member}</span>
    </li>
  );
}
