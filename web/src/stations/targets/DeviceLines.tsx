import AddIcon from "@mui/icons-material/Add";
import { Button } from "@mui/material";
import type { Target } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { SizeWord } from "../../shared/SizeWord";
import { TextWord } from "../../shared/TextWord";
import type { TargetLineProps } from "./TargetLines";
import { FILL_ORDER } from "./words";

type Device = NonNullable<Target["devices"]>[number];

/** The devices that a disk target is made of, and which of them a point goes to. */
export function DeviceLines({ target, canEdit, keep }: TargetLineProps) {
  const devices = target.devices ?? [];
  const put = (at: number, change: Partial<Device> | null) => {
    const next = devices.flatMap((one, place) =>
      place !== at ? [one] : change ? [{ ...one, ...change }] : [],
    );
    return keep({ devices: next }, "its devices");
  };
  const add = () => {
    const device = { name: `Device ${devices.length + 1}`, capacity: target.capacity ?? "10 TB" };
    void keep({ devices: [...devices, device] }, "added a device");
  };
  return (
    <Line label="Devices">
      {devices.length === 0 ? "It is one device." : "It is made of"}
      {devices.map((device, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: devices have no id, their place is what they are known by
        <Line key={at}>
          <TextWord
            label={`Name of device ${at + 1}`}
            value={device.name}
            disabled={!canEdit}
            onKeep={(name) => put(at, { name })}
          />
          of
          <SizeWord
            label={`Capacity of device ${at + 1}`}
            value={device.capacity}
            disabled={!canEdit}
            width={76}
            onKeep={(capacity) => put(at, { capacity: capacity ?? 0 })}
          />
          {canEdit && <RemoveButton label={`Remove ${device.name}`} onRemove={() => void put(at, null)} />}
        </Line>
      ))}
      {devices.length > 1 && (
        <>
          A point goes to
          <Choice
            label="Fill order"
            value={target.fill_order ?? "in-order"}
            options={FILL_ORDER}
            disabled={!canEdit}
            onChange={(fill_order) => void keep({ fill_order }, FILL_ORDER[fill_order])}
          />
        </>
      )}
      {canEdit && (
        <Button startIcon={<AddIcon />} onClick={add}>
          Add a device
        </Button>
      )}
    </Line>
  );
}
