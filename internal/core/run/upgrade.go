package run

import (
	"encoding/json"

	"nimbleanvil/internal/core/circuit"
)

// workBlock is the block that the slots of plans stand in which knew of none.
const workBlock = "b3"

// upgraded brings the bytes of a plan from before it had blocks to today's names: what was
// the order's blocks are its stretches, and entries have doses.
func upgraded(b []byte) ([]byte, error) {
	var p map[string]json.RawMessage
	if err := json.Unmarshal(b, &p); err != nil {
		return nil, err
	}
	var v int
	if p["v"] != nil {
		if err := json.Unmarshal(p["v"], &v); err != nil {
			return nil, err
		}
	}
	if v >= PlanVersion || v < 0 {
		return b, nil
	}
	var order map[string]json.RawMessage
	if err := json.Unmarshal(p["order"], &order); err != nil {
		return nil, err
	}
	order["stretches"] = order["blocks"]
	delete(order, "blocks")
	var slots []map[string]json.RawMessage
	if p["slots"] != nil {
		if err := json.Unmarshal(p["slots"], &slots); err != nil {
			return nil, err
		}
	}
	for _, s := range slots {
		s["block"] = json.RawMessage(`"` + workBlock + `"`)
		if err := upgradeCells(s); err != nil {
			return nil, err
		}
	}
	var err error
	if p["order"], err = json.Marshal(order); err != nil {
		return nil, err
	}
	if p["slots"], err = json.Marshal(slots); err != nil {
		return nil, err
	}
	return json.Marshal(p)
}

func upgradeCells(slot map[string]json.RawMessage) error {
	var cells []map[string]json.RawMessage
	if slot["cells"] == nil {
		return nil
	}
	if err := json.Unmarshal(slot["cells"], &cells); err != nil {
		return err
	}
	var err error
	for _, c := range cells {
		for _, at := range []string{"entry", "beside"} {
			if c[at], err = upgradeEntry(c[at], at == "beside"); err != nil {
				return err
			}
			if c[at] == nil {
				delete(c, at)
			}
		}
	}
	slot["cells"], err = json.Marshal(cells)
	return err
}

// upgradeEntry brings an entry of before shape 3 to today's, or the one within what stands
// beside a cell.
func upgradeEntry(b json.RawMessage, within bool) (json.RawMessage, error) {
	if b == nil || string(b) == "null" {
		return nil, nil
	}
	if within {
		var beside map[string]json.RawMessage
		if err := json.Unmarshal(b, &beside); err != nil {
			return nil, err
		}
		var err error
		if beside["entry"], err = upgradeEntry(beside["entry"], false); err != nil {
			return nil, err
		}
		return json.Marshal(beside)
	}
	var old circuit.EntryBefore3
	if err := json.Unmarshal(b, &old); err != nil {
		return nil, err
	}
	return json.Marshal(old.Upgraded())
}
