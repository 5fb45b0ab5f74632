import React from 'react';
import {
  Button as MButton,
  TextField,
  Checkbox as MCheckbox,
  FormControlLabel,
  Alert as MAlert,
  Chip,
  Dialog as MDialog,
  DialogTitle,
  Typography,
  Switch as MSwitch,
  List,
  ListItem,
  ListItemText,
  Stack,
  Box,
  IconButton as MIconButton,
  Tabs as MTabs,
  Tab as MTab,
  Select as MSelect,
  MenuItem as MMenuItem,
  Card as MCard,
  CardContent,
  CircularProgress,
  Link as MLink,
  Table,
  TableBody,
  TableCell,
  TableRow,
  Accordion,
  AccordionSummary,
  AccordionDetails,
  Avatar,
  Badge,
} from '@mui/material';
import {
  Button as AButton,
  Input as AInput,
  Checkbox as ACheckbox,
  Alert as AAlert,
  Tag,
  Card as ACard,
  Switch as ASwitch,
  Form as AForm,
  Typography as ATypography,
  Space,
  Divider,
  Empty,
  Spin,
} from 'antd';
import {
  Button as BButton,
  Form as BForm,
  Alert as BAlert,
  Badge as BBadge,
  Card as BCard,
  Spinner as BSpinner,
  Nav as BNav,
  ListGroup,
  Row,
  Col,
  Container,
  InputGroup,
  Table as BTable,
} from 'react-bootstrap';
import {
  MantineProvider,
  Button as NButton,
  TextInput as NTextInput,
  Checkbox as NCheckbox,
  Alert as NAlert,
  Badge as NBadge,
  Title,
  Text as NText,
  Group,
  Stack as NStack,
} from '@mantine/core';
import {
  ChakraProvider,
  Button as CButton,
  Input as CInput,
  Heading,
  Text as CText,
  FormControl,
  FormLabel,
  Checkbox as CCheckbox,
  Alert as CAlert,
  Box as CBox,
} from '@chakra-ui/react';
import {
  Button as SButton,
  Input as SInput,
  Label as SLabel,
  Card as SCard,
  Alert as SAlert,
  Form as SForm,
  FormGroup as SFormGroup,
} from 'reactstrap';
import {
  Switch as HSwitch,
  Field as HField,
  Label as HLabel,
  Input as HInput,
  Button as HButton,
} from '@headlessui/react';
import * as RDialog from '@radix-ui/react-dialog';
import * as RCheckbox from '@radix-ui/react-checkbox';
import * as RTabs from '@radix-ui/react-tabs';
import * as RSwitch from '@radix-ui/react-switch';
import * as RLabel from '@radix-ui/react-label';
import {
  Button as UButton,
  Header as UHeader,
  Input as UInput,
  Message as UMessage,
  Segment,
  Form as UForm,
  Label as ULabel,
} from 'semantic-ui-react';
import { Button as PButton } from 'primereact/button';
import { InputText } from 'primereact/inputtext';
import {
  Button as FButton,
  Input as FInput,
  Label as FLabel,
  Checkbox as FCheckbox,
  Field as FField,
} from '@fluentui/react-components';
import {
  Button as ABtn,
  TextField as ATextField,
  Label as ALabel,
  Input as AInp,
} from 'react-aria-components';
import { Formik, Form, Field, ErrorMessage } from 'formik';
import { useForm, FormProvider, Controller } from 'react-hook-form';
import { MemoryRouter, Link, NavLink, Routes, Route } from 'react-router-dom';
import {
  Button as KButton,
  TextInput as KTextInput,
  Checkbox as KCheckbox,
  InlineNotification,
  Tag as KTag,
  Tile,
  Select as KSelect,
  SelectItem as KSelectItem,
  Toggle as KToggle,
  RadioButton as KRadioButton,
  RadioButtonGroup as KRadioButtonGroup,
  Accordion as KAccordion,
  AccordionItem as KAccordionItem,
  Link as KLink,
  Loading as KLoading,
  Search as KSearch,
  TextArea as KTextArea,
  NumberInput as KNumberInput,
  Modal as KModal,
} from '@carbon/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Provider } from 'react-redux';
import { createStore } from 'redux';
import { styled, ThemeProvider } from 'styled-components';

export const MuiButton = () => <MButton variant="contained">Fire</MButton>;
export const MuiLinkButton = () => <MButton href="/kiln">Fire</MButton>;
export const MuiText = () => <TextField id="cone" label="Cone" />;
export const MuiCheck = () => <FormControlLabel control={<MCheckbox />} label="Vent" />;
export const MuiAlert = () => <MAlert severity="error">Too hot</MAlert>;
export const MuiChip = () => <Chip label="Raku" />;
export const MuiDialog = () => (
  <MDialog open>
    <DialogTitle>Log</DialogTitle>
  </MDialog>
);
export const MuiType = () => <Typography variant="h2">Kilns</Typography>;
export const MuiSwitch = () => <MSwitch slotProps={{ input: { 'aria-label': 'Vent' } }} />;
export const MuiList = () => (
  <List>
    <ListItem>
      <ListItemText primary="Raku" secondary="Cone 6" />
    </ListItem>
  </List>
);
export const MuiStack = () => (
  <Stack>
    <Box>
      <p>Kiln</p>
    </Box>
  </Stack>
);
export const MuiIcon = () => (
  <MIconButton aria-label="Close">
    <b>x</b>
  </MIconButton>
);
export const MuiCard = () => (
  <MCard>
    <CardContent>
      <p>Kiln</p>
    </CardContent>
  </MCard>
);
export const MuiProgress = () => <CircularProgress aria-label="Loading" />;
export const MuiLink = () => <MLink href="/kiln">Kiln</MLink>;
export const MuiTable = () => (
  <Table>
    <TableBody>
      <TableRow>
        <TableCell>Raku</TableCell>
      </TableRow>
    </TableBody>
  </Table>
);
export const MuiBadge = () => (
  <Badge badgeContent={4}>
    <b>Kilns</b>
  </Badge>
);
export const AntButton = () => <AButton type="primary">Fire</AButton>;
export const AntInput = () => <AInput placeholder="Cone" />;
export const AntCheck = () => <ACheckbox>Vent</ACheckbox>;
export const AntAlert = () => <AAlert message="Too hot" type="error" />;
export const AntTag = () => <Tag>Raku</Tag>;
export const AntCard = () => (
  <ACard title="Kiln">
    <p>Raku</p>
  </ACard>
);
export const AntSwitch = () => <ASwitch aria-label="Vent" />;
export const AntTitle = () => <ATypography.Title level={3}>Kilns</ATypography.Title>;
export const AntSpace = () => (
  <Space>
    <b>Kiln</b>
  </Space>
);
export const BsButton = () => <BButton variant="danger">Fire</BButton>;
export const BsForm = () => (
  <BForm>
    <BForm.Group controlId="cone">
      <BForm.Label>Cone</BForm.Label>
      <BForm.Control type="text" placeholder="6" />
    </BForm.Group>
  </BForm>
);
export const BsCheck = () => <BForm.Check type="checkbox" id="vent" label="Vent" />;
export const BsAlert = () => <BAlert variant="danger">Too hot</BAlert>;
export const BsBadge = () => <BBadge>Raku</BBadge>;
export const BsCard = () => (
  <BCard>
    <BCard.Body>
      <BCard.Title>Kiln</BCard.Title>
      <BCard.Text>Raku</BCard.Text>
    </BCard.Body>
  </BCard>
);
export const BsSpinner = () => (
  <BSpinner role="status">
    <span>Loading</span>
  </BSpinner>
);
export const BsList = () => (
  <ListGroup>
    <ListGroup.Item>Raku</ListGroup.Item>
  </ListGroup>
);
export const BsGrid = () => (
  <Container>
    <Row>
      <Col>
        <p>Kiln</p>
      </Col>
    </Row>
  </Container>
);
export const BsTable = () => (
  <BTable>
    <tbody>
      <tr>
        <td>Raku</td>
      </tr>
    </tbody>
  </BTable>
);
export const MantineButton = () => (
  <MantineProvider>
    <NButton>Fire</NButton>
  </MantineProvider>
);
export const MantineInput = () => (
  <MantineProvider>
    <NTextInput label="Cone" />
  </MantineProvider>
);
export const MantineTitle = () => (
  <MantineProvider>
    <Title order={2}>Kilns</Title>
  </MantineProvider>
);
export const MantineText = () => (
  <MantineProvider>
    <NText>Raku</NText>
  </MantineProvider>
);
export const MantineAlert = () => (
  <MantineProvider>
    <NAlert title="Hot">Too hot</NAlert>
  </MantineProvider>
);
export const ChakraButton = () => (
  <ChakraProvider>
    <CButton>Fire</CButton>
  </ChakraProvider>
);
export const ChakraInput = () => (
  <ChakraProvider>
    <FormControl>
      <FormLabel>Cone</FormLabel>
      <CInput />
    </FormControl>
  </ChakraProvider>
);
export const ChakraHeading = () => (
  <ChakraProvider>
    <Heading as="h3">Kilns</Heading>
  </ChakraProvider>
);
export const StrapButton = () => <SButton color="danger">Fire</SButton>;
export const StrapForm = () => (
  <SForm>
    <SFormGroup>
      <SLabel for="cone">Cone</SLabel>
      <SInput id="cone" type="text" />
    </SFormGroup>
  </SForm>
);
export const StrapAlert = () => <SAlert color="danger">Too hot</SAlert>;
export const HeadSwitch = () => <HSwitch aria-label="Vent" />;
export const HeadField = () => (
  <HField>
    <HLabel>Cone</HLabel>
    <HInput name="cone" />
  </HField>
);
export const RadixCheck = () => (
  <div>
    <RLabel.Root htmlFor="vent">Vent</RLabel.Root>
    <RCheckbox.Root id="vent">
      <RCheckbox.Indicator />
    </RCheckbox.Root>
  </div>
);
export const RadixTabs = () => (
  <RTabs.Root defaultValue="a">
    <RTabs.List aria-label="Ways">
      <RTabs.Trigger value="a">Fire</RTabs.Trigger>
      <RTabs.Trigger value="b">Cool</RTabs.Trigger>
    </RTabs.List>
    <RTabs.Content value="a">Hot</RTabs.Content>
  </RTabs.Root>
);
export const RadixDialog = () => (
  <RDialog.Root>
    <RDialog.Trigger>Open</RDialog.Trigger>
  </RDialog.Root>
);
export const RadixSwitch = () => (
  <RSwitch.Root aria-label="Vent">
    <RSwitch.Thumb />
  </RSwitch.Root>
);
export const SemButton = () => <UButton>Fire</UButton>;
export const SemHeader = () => <UHeader as="h2">Kilns</UHeader>;
export const SemInput = () => <UInput placeholder="Cone" />;
export const SemMessage = () => <UMessage>Too hot</UMessage>;
export const PrimeButton = () => <PButton label="Fire" />;
export const PrimeInput = () => <InputText aria-label="Cone" />;
export const FluentButton = () => <FButton>Fire</FButton>;
export const FluentField = () => (
  <FField label="Cone">
    <FInput />
  </FField>
);
export const AriaButton = () => <ABtn>Fire</ABtn>;
export const AriaField = () => (
  <ATextField>
    <ALabel>Cone</ALabel>
    <AInp />
  </ATextField>
);
export const FormikForm = () => (
  <Formik initialValues={{ cone: '' }} onSubmit={() => {}}>
    <Form>
      <label htmlFor="cone">Cone</label>
      <Field id="cone" name="cone" />
    </Form>
  </Formik>
);
export const FormikRender = () => (
  <Formik initialValues={{ cone: '' }} onSubmit={() => {}}>
    {({ values }) => (
      <Form>
        <p>Kiln</p>
      </Form>
    )}
  </Formik>
);
export const HookForm = () => {
  const { register, handleSubmit } = useForm();
  return (
    <form onSubmit={handleSubmit(() => {})}>
      <label htmlFor="cone">Cone</label>
      <input id="cone" {...register('cone')} />
    </form>
  );
};
export const HookControl = () => {
  const { control } = useForm();
  return (
    <Controller
      control={control}
      name="cone"
      render={({ field }) => <input aria-label="Cone" name={field.name} />}
    />
  );
};
export const HookProvider = () => {
  const methods = useForm();
  return (
    <FormProvider {...methods}>
      <p>Kiln</p>
    </FormProvider>
  );
};
export const RouterLink = () => (
  <MemoryRouter>
    <Link to="/kiln">Kiln</Link>
    <NavLink to="/log">Log</NavLink>
  </MemoryRouter>
);
export const RouterRoutes = () => (
  <MemoryRouter>
    <Routes>
      <Route path="/" element={<p>Kilns</p>} />
    </Routes>
  </MemoryRouter>
);
export const CarbonButton = () => <KButton>Fire</KButton>;
export const CarbonIcon = () => <KButton hasIconOnly iconDescription="Close" renderIcon={() => <b>x</b>} />;
export const CarbonInput = () => <KTextInput id="cone" labelText="Cone" />;
export const CarbonCheck = () => <KCheckbox id="vent" labelText="Vent" />;
export const CarbonNote = () => <InlineNotification title="Too hot" kind="error" />;
export const CarbonTag = () => <KTag>Raku</KTag>;
export const CarbonTile = () => (
  <Tile>
    <p>Kiln</p>
  </Tile>
);
export const CarbonSelect = () => (
  <KSelect id="glaze" labelText="Glaze">
    <KSelectItem value="a" text="Ash" />
  </KSelect>
);
export const CarbonToggle = () => <KToggle id="vent" labelText="Vent" />;
export const CarbonRadio = () => (
  <KRadioButtonGroup legendText="Way" name="way">
    <KRadioButton labelText="Up" value="up" id="up" />
  </KRadioButtonGroup>
);
export const CarbonAccordion = () => (
  <KAccordion>
    <KAccordionItem title="Log">
      <p>Raku</p>
    </KAccordionItem>
  </KAccordion>
);
export const CarbonLink = () => <KLink href="/kiln">Kiln</KLink>;
export const CarbonSearch = () => <KSearch id="s" labelText="Find" />;
export const CarbonArea = () => <KTextArea id="n" labelText="Notes" />;
export const CarbonNumber = () => <KNumberInput id="n" label="Hours" />;
export const QueryClientApp = () => (
  <QueryClientProvider client={new QueryClient()}>
    <p>Kiln</p>
  </QueryClientProvider>
);
export const ReduxApp = () => (
  <Provider store={createStore(() => ({}))}>
    <p>Kiln</p>
  </Provider>
);
const Lid = styled.button`
  color: red;
`;
export const StyledApp = () => (
  <ThemeProvider theme={{}}>
    <Lid>Vent</Lid>
  </ThemeProvider>
);
