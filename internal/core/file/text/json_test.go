package text_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/text"
)

func TestJSONHidesNothing(t *testing.T) {
	in := map[string]string{"text": "a\x1b]52;c;x\x07 <b> \u009b31m \u202ereversed \u200b \U000e0041 \u3164 \x7f \u2028 Hütte ⚑"}
	data, err := text.JSON(in, "")
	require.NoError(t, err)
	assert.Equal(t, `{"text":"a\u001b]52;c;x\u0007 <b> \u009b31m \u202ereversed \u200b \udb40\udc41 \u3164 \u007f \u2028 Hütte ⚑"}`+"\n", string(data))
	var out map[string]string
	require.NoError(t, json.Unmarshal(data, &out))
	assert.Equal(t, in, out)
}
