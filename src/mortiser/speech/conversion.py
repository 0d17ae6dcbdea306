"""A small language model put into the form in which the inference library runs it.

The data package has SmolLM2-135M-Instruct as a GGUF file (Q4_1). CTranslate2, which runs the Whisper
models anyway, knows the same architecture (Llama: Touvron et al. 2023), so that no second library is
needed: the weights are read, named as it names them, and kept in 8 bits. Done once, in a process of its
own, since it takes a gigabyte of memory for some seconds.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

from mortiser.core.common.errors import BadInput
from mortiser.speech.models import has_all

FILES = ("model.bin", "config.json", "vocabulary.json", "tokenizer.json")
GGUF = "model.gguf"


def converted(folder: Path) -> Path:
    """The model of the GGUF file in a folder, beside it, converted when it is first asked for.

    Two processes may do it at once. Raises BadInput where it cannot be read or there is no room.
    """
    there = folder / "ready"
    if has_all(there, FILES):
        return there
    try:
        made = Path(tempfile.mkdtemp(dir=folder, prefix="ready."))
    except OSError as error:
        raise BadInput(
            f"The language model cannot be put into {folder}: {error.strerror or error}."
        ) from error
    try:
        done = subprocess.run(
            [sys.executable, "-m", "mortiser.speech.conversion", str(folder / GGUF), str(made)],
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode:
            last = done.stderr.strip().splitlines()[-1:]
            raise BadInput(f"The language model in {folder} cannot be read: {''.join(last)}")
        try:
            os.rename(made, there)
        except OSError:
            # Another process was quicker, or what was there is not whole.
            if not has_all(there, FILES):
                shutil.rmtree(there, ignore_errors=True)
                os.rename(made, there)
    finally:
        shutil.rmtree(made, ignore_errors=True)
    return there


def convert(file: Path, folder: Path) -> None:
    """Write a Llama model in a GGUF file as CTranslate2 model and tokenizer into a folder."""
    from ctranslate2.converters.utils import fuse_linear
    from ctranslate2.specs import TransformerDecoderModelSpec, common_spec
    from gguf import GGUFReader
    from gguf.quants import dequantize

    reader: Any = GGUFReader(file)
    weights = {tensor.name: tensor for tensor in reader.tensors}

    def fact(name: str) -> Any:
        return reader.fields[name].contents()

    def weight(name: str) -> Any:
        tensor = weights[f"{name}.weight"]
        return dequantize(tensor.data, tensor.tensor_type).astype("float32")

    def linear(name: str) -> Any:
        spec = common_spec.LinearSpec()
        spec.weight = weight(name)
        return spec

    spec: Any = TransformerDecoderModelSpec.from_config(
        fact("llama.block_count"),
        fact("llama.attention.head_count"),
        activation=common_spec.Activation.SWISH,
        pre_norm=True,
        ffn_glu=True,
        rms_norm=True,
        rotary_dim=0,
        # In GGUF files the halves of a turned pair lie beside each other.
        rotary_interleave=True,
        rotary_base=fact("llama.rope.freq_base"),
        num_heads_kv=fact("llama.attention.head_count_kv"),
    )
    decoder = spec.decoder
    decoder.scale_embeddings = False
    decoder.embeddings.weight = decoder.projection.weight = weight("token_embd")
    decoder.layer_norm.gamma = weight("output_norm")
    for number, layer in enumerate(decoder.layer):
        block = f"blk.{number}"
        attention, forward = layer.self_attention, layer.ffn
        attention.layer_norm.gamma = weight(f"{block}.attn_norm")
        forward.layer_norm.gamma = weight(f"{block}.ffn_norm")
        fuse_linear(attention.linear[0], [linear(f"{block}.attn_{part}") for part in "qkv"])
        attention.linear[1].weight = weight(f"{block}.attn_output")
        forward.linear_0.weight = weight(f"{block}.ffn_gate")
        forward.linear_0_noact.weight = weight(f"{block}.ffn_up")
        forward.linear_1.weight = weight(f"{block}.ffn_down")
    tokens = fact("tokenizer.ggml.tokens")
    spec.register_vocabulary(tokens)
    unknown, begin, end = (
        tokens[fact(f"tokenizer.ggml.{kind}_token_id")] for kind in ("unknown", "bos", "eos")
    )
    spec.config.unk_token, spec.config.bos_token, spec.config.eos_token = unknown, begin, end
    spec.config.layer_norm_epsilon = fact("llama.attention.layer_norm_rms_epsilon")
    spec.validate()
    spec.optimize(quantization="int8")
    spec.save(str(folder))
    merges = [pair.split(" ", 1) for pair in fact("tokenizer.ggml.merges")]
    _tokenizer(tokens, [(one, other) for one, other in merges]).save(str(folder / "tokenizer.json"))


def _tokenizer(tokens: list[str], merges: list[tuple[str, str]]) -> Any:
    """Byte pairs with every digit alone, as the model was trained."""
    from tokenizers import Tokenizer, models, pre_tokenizers

    numbers = {token: number for number, token in enumerate(tokens)}
    tokenizer: Any = Tokenizer(models.BPE(vocab=numbers, merges=merges))
    tokenizer.pre_tokenizer = pre_tokenizers.Sequence(
        [
            pre_tokenizers.Digits(individual_digits=True),
            pre_tokenizers.ByteLevel(add_prefix_space=False),
        ]
    )
    return tokenizer


if __name__ == "__main__":
    convert(Path(sys.argv[1]), Path(sys.argv[2]))
