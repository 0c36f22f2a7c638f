//! How values of our own stand in JSON Schemas.

use crate::cause::Cause;
use crate::text::Size;
use crate::version::{Bound, Range, Version};
use alloc::borrow::Cow;
use schemars::{JsonSchema, Schema, SchemaGenerator, json_schema};

macro_rules! texts {
    ($($type:ty = $name:literal),+) => {
        $(impl JsonSchema for $type {
            fn schema_name() -> Cow<'static, str> {
                $name.into()
            }

            fn inline_schema() -> bool {
                true
            }

            fn json_schema(_: &mut SchemaGenerator) -> Schema {
                json_schema!({ "type": "string" })
            }
        })+
    };
}

texts! { Version = "Version", Range = "Range", Bound = "Bound" }

impl JsonSchema for Size {
    fn schema_name() -> Cow<'static, str> {
        "Bytes".into()
    }

    fn json_schema(_: &mut SchemaGenerator) -> Schema {
        json_schema!({ "type": "integer", "minimum": 0 })
    }
}

impl JsonSchema for Cause {
    fn schema_name() -> Cow<'static, str> {
        "Cause".into()
    }

    fn json_schema(_: &mut SchemaGenerator) -> Schema {
        let words: alloc::vec::Vec<&str> = Self::ALL.iter().map(|cause| cause.word()).collect();
        json_schema!({ "enum": words })
    }
}
